import { styled } from "@mui/material/styles";
import { stacked } from "../../app/theme/frames";

/** Hand over: the two papers side by side, what goes into them at the right. */
export const HandFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(0,1fr) minmax(0,1fr) minmax(220px,252px);
    gap:0 20px;
    padding:14px 0;
    font-size:15px;
    line-height:20px;
    align-items:start;
  }
  & .paper {
    min-width:0;
    display:grid;
    gap:8px;
  }
  & .paper .sheet {
    background:#fff;
    box-shadow:0 1px 0 var(--lineStrong);
    border:0;
    padding:0;
    display:block;
    width:100%;
    cursor:zoom-in;
    aspect-ratio:210/297;
    overflow:hidden;
  }
  & .paper .sheet svg {
    display:block;
    width:100%;
    height:auto;
  }
  & .turn {
    display:flex;
    justify-content:space-between;
    align-items:center;
    gap:8px;
    min-height:44px;
  }
  & h2 {
    font-size:20px;
    line-height:26px;
    margin:0 0 4px;
    padding-bottom:6px;
    border-bottom:1.5px solid var(--ink);
  }
  & .side {
    display:grid;
    gap:12px;
    align-content:start;
  }
  & .parts {
    list-style:none;
    margin:0;
    padding:0;
  }
  & .parts li {
    border-bottom:1px solid var(--line);
    display:flex;
    gap:2px;
    align-items:center;
  }
  & .parts label {
    padding:3px 0;
    min-height:44px;
    display:grid;
    align-content:center;
    flex:1;
    cursor:pointer;
    line-height:19px;
  }
  & .parts .off {
    color:var(--ink2);
  }
  & .todo {
    list-style:none;
    margin:0;
    padding:0;
  }
  & .todo li {
    border-bottom:1px solid var(--line);
  }
  & .todo a {
    display:block;
    padding:7px 0;
    color:inherit;
    text-decoration:none;
  }
  & .todo a:hover .b {
    text-decoration:underline;
  }
  & .keyfoot {
    position:sticky;
    bottom:0;
    display:grid;
    gap:8px;
    padding:10px 0 12px;
    background:var(--primer);
    border-top:1.5px solid var(--ink);
  }
  & .pairkeys {
    display:grid;
    grid-template-columns:1fr 1fr;
    gap:8px;
  }
  ${({ theme }) => theme.breakpoints.down("md")} {
    & {
      ${stacked}
    }
    & .side {
      order:-1;
    }
  }
`;
