import { styled } from "@mui/material/styles";

/** The curve with its hours at the left, the panels at the right. */
export const BudgetFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(0,10fr) minmax(0,12fr);
    gap:14px 28px;
    padding:14px 0 20px;
    align-items:start;
  }
  &>section {
    min-width:0;
  }
  & .figures {
    display:flex;
    gap:8px 28px;
    flex-wrap:wrap;
    align-items:end;
  }
  & .figures .n {
    font-size:30px;
    line-height:36px;
  }
  & .figures .small {
    font-size:18px;
  }
  & svg {
    width:100%;
    display:block;
  }
  & .acts {
    display:grid;
    grid-template-columns:1fr 1fr;
    gap:10px;
    padding-top:8px;
  }
  @media (max-width:1180px) {
    & {
      grid-template-columns:minmax(0,1fr);
    }
  }
  @media (min-width:760px) and (max-width:1180px) {
    &>section:first-of-type {
      display:grid;
      grid-template-columns:minmax(0,2fr) minmax(0,1fr);
      gap:0 28px;
    }
    &>section:first-of-type>.figures, &>section:first-of-type>p {
      grid-column:1 / -1;
    }
    & .acts {
      grid-template-columns:1fr;
    }
  }
`;
