import { styled } from "@mui/material/styles";

/** People and abrasives, one below the other. */
export const HandsFrame = styled("div")`
  & {
    display:grid;
    gap:28px;
    padding:14px 0 24px;
  }
  &>section {
    min-width:0;
  }
  @media (max-width:900px) {
    & .heading .s, & th:nth-child(4), & td:has(>svg) {
      display:none;
    }
    & td.s {
      font-size:13px;
    }
  }
`;
