import { styled } from "@mui/material/styles";

/** What was promised above, line by line what happened below. */
export const WentFrame = styled("div")`
  & {
    display:grid;
    gap:12px;
    padding:14px 0 12px;
    grid-template-columns:minmax(0,1fr);
    line-height:19px;
  }
  & .figures {
    display:grid;
    grid-template-columns:minmax(0,1.7fr) repeat(3,minmax(0,1fr));
    gap:10px 24px;
  }
  & .figures>section {
    min-width:0;
    border-top:1.5px solid var(--ink);
    padding-top:6px;
    display:grid;
    gap:4px;
    align-content:start;
  }
  & .figures h2 {
    margin:0;
    font-size:15px;
    line-height:19px;
    display:flex;
    justify-content:space-between;
    gap:8px;
  }
  & .figures h2 .against {
    display:inline-flex;
    gap:5px;
    align-items:center;
    white-space:nowrap;
  }
  & .figures .n {
    font-size:24px;
    line-height:29px;
  }
  & .figures p {
    margin:0;
  }
  & .bar {
    display:block;
    width:100%;
  }
  & td.name {
    min-width:150px;
  }
  & .how {
    padding-left:18px;
  }
  & td.how {
    min-width:170px;
    white-space:normal;
  }
  & .foot {
    position:sticky;
    bottom:0;
    display:flex;
    flex-wrap:wrap;
    gap:10px 20px;
    align-items:center;
    justify-content:space-between;
    border-top:2px solid var(--ink);
    padding:8px 0;
    background:var(--primer);
  }
  & .foot>:first-of-type {
    flex:1 1 320px;
  }
  & .acts {
    display:flex;
    flex-wrap:wrap;
    gap:10px;
  }
  ${({ theme }) => theme.breakpoints.down("lg")} {
    & .figures {
      grid-template-columns:repeat(2,minmax(0,1fr));
    }
  }
  ${({ theme }) => theme.breakpoints.down("md")} {
    & .figures {
      grid-template-columns:minmax(0,1fr);
    }
    & .foot {
      position:static;
    }
  }
`;
