import { styled } from "@mui/material/styles";

/** The plans of a whole car. */
export const CarPlansFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(280px,420px) minmax(0,1fr);
    gap:0 32px;
    padding:12px 0 20px;
  }
  &>section {
    min-width:0;
  }
  @media (max-width:1180px) {
    & {
      display:flex;
      flex-direction:column;
      gap:20px;
    }
  }
`;
