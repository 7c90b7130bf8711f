import { styled } from "@mui/material/styles";

/** The shelf: the map of cuts beside the thing in hand. */
export const ShelfFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(0,1fr) 460px;
    gap:0 32px;
    padding:14px 0 24px;
  }
  &>section {
    min-width:0;
  }
  & .befores td {
    white-space:normal;
    line-height:17px;
  }
  & .befores td:first-child {
    width:58%;
  }
  & .constants td.xs {
    padding-left:8px;
  }
  & .constants .MuiOutlinedInput-root {
    min-height:34px;
  }
  & .constants .MuiOutlinedInput-input {
    height:32px;
  }
  & .constants td {
    height:40px;
    white-space:normal;
  }
  @media (max-width:1180px) {
    & {
      grid-template-columns:minmax(0,1fr) 380px;
      gap:0 20px;
    }
  }
  @media (max-width:900px) {
    & {
      display:flex;
      flex-direction:column;
      gap:20px;
    }
  }
`;
