import { styled } from "@mui/material/styles";
import { stacked } from "../../app/theme/frames";

/** Read: where, the panel, the film core, the number. */
export const ReadFrame = styled("div")`
  & .entry .MuiToggleButton-root {
    padding:0 4px;
    font-size:13.5px;
    white-space:nowrap;
  }
  & {
    display:grid;
    grid-template-columns:380px minmax(360px,1fr) 146px 166px;
    gap:0 18px;
    height:calc(100vh - 89px);
    min-height:700px;
    padding:14px 0 12px;
    grid-template-rows:minmax(0,1fr);
  }
  &>section, &>div {
    min-width:0;
    display:flex;
    flex-direction:column;
  }
  & .pad[hidden] {
    display:none;
  }
  & .pad {
    display:grid;
    grid-template-columns:repeat(3,1fr);
    gap:8px;
  }
  & .pad .MuiButton-root {
    min-height:50px;
    font-weight:600;
    font-size:22px;
    font-family:"Archivo Variable",sans-serif;
    font-stretch:112%;
    padding:0;
  }
  @media (max-width:1180px) {
    &>section:first-child>svg {
      height:220px;
    }
    & {
      min-height:660px;
      grid-template-columns:314px minmax(280px,1fr) 124px 166px;
      gap:0 14px;
    }
  }
  @media (max-width:900px) {
    & {
      ${stacked}
    }
    & .thing {
      order:-2;
    }
    & .entrycol {
      order:-1;
    }
    & .core svg {
      height:380px;
    }
    & .leader {
      display:none;
    }
    &>section {
      width:100%;
    }
  }
`;
