import { styled } from "@mui/material/styles";

/** What an owner chooses between: columns side by side, what the shop says of them below. */
export const OffersFrame = styled("div")`
  & {
    display:flex;
    flex-direction:column;
    gap:14px;
    padding:14px 0;
    line-height:19px;
  }
  & .columns {
    display:grid;
    grid-template-columns:repeat(auto-fit,minmax(min(210px,100%),1fr));
    gap:0 24px;
    align-items:start;
  }
  & .column {
    min-width:0;
    display:grid;
    gap:6px;
    align-content:start;
    padding-bottom:6px;
    cursor:pointer;
  }
  & .column>button {
    all:unset;
    display:flex;
    gap:10px;
    align-items:center;
    min-height:50px;
    padding:0 8px;
    cursor:pointer;
  }
  & .column>button:focus-visible {
    outline:3px solid var(--focus);
    outline-offset:2px;
  }
  & .column h2 {
    margin:0;
    font-size:19px;
    line-height:24px;
  }
  & .column.chosen>button {
    background:var(--tape);
    color:var(--onTape);
  }
  & .column.chosen .kc {
    border-color:var(--onTape);
    color:var(--onTape);
  }
  & .column img {
    display:block;
    width:100%;
    aspect-ratio:48/22;
    object-fit:cover;
    border:1.5px solid var(--ink);
    background:var(--line);
  }
  & .looks {
    min-height:38px;
    margin:0;
  }
  & .price {
    display:flex;
    justify-content:space-between;
    align-items:baseline;
    gap:8px;
    border-top:1.5px solid var(--ink);
    padding-top:6px;
    flex-wrap:wrap;
  }
  & .price .n {
    font-size:28px;
    line-height:32px;
  }
  & .price .ready {
    font-size:17px;
  }
  & dl {
    margin:0;
  }
  & dl div {
    display:flex;
    justify-content:space-between;
    gap:8px;
    border-top:1px solid var(--line);
    padding:5px 0;
  }
  & dt {
    color:var(--ink2);
  }
  & dd {
    margin:0;
  }
  & .overclear {
    display:grid;
    gap:6px;
  }
  & .overclear .ends {
    display:flex;
    justify-content:space-between;
    align-items:center;
    gap:8px;
  }
  & .stays {
    margin:0;
    padding:8px 0 0;
    border-top:1px solid var(--line);
  }
  & .stays li {
    margin:0 0 4px 16px;
  }
  & .more {
    display:grid;
    grid-template-columns:minmax(0,1fr) minmax(0,420px);
    gap:8px 24px;
    border-top:1px solid var(--line);
    padding-top:8px;
  }
  & .more p, & .foot p {
    margin:0 0 4px;
  }
  & .foot {
    position:sticky;
    bottom:0;
    display:grid;
    grid-template-columns:minmax(0,1fr) minmax(260px,440px);
    gap:8px 24px;
    border-top:2px solid var(--ink);
    padding:8px 0;
    align-items:start;
    background:var(--primer);
  }
  & .acts {
    display:grid;
    grid-template-columns:1fr 1.3fr;
    gap:10px;
  }
  ${({ theme }) => theme.breakpoints.down("md")} {
    & .more, & .foot {
      grid-template-columns:minmax(0,1fr);
    }
    & .foot {
      position:static;
    }
  }
`;
