import { styled } from "@mui/material/styles";

/** House rules beside what they come to on a car. */
export const RulesFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(0,640px) minmax(0,1fr);
    gap:0 40px;
    padding:14px 0 24px;
  }
  & .rule {
    display:grid;
    grid-template-columns:190px minmax(0,1fr);
    gap:4px 14px;
    align-items:center;
    border-bottom:1px solid var(--line);
    padding:5px 0;
  }
  & .rule .MuiToggleButtonGroup-root {
    flex-wrap:wrap;
    border:0;
  }
  & .rule .MuiToggleButton-root {
    flex:none;
    padding:0 12px;
  }
  & .rule>.MuiButton-root {
    background:none;
    border:0;
    padding:0;
    text-align:left;
    cursor:pointer;
    font-weight:600;
    min-height:36px;
  }
  & .rule.on>.MuiButton-root {
    box-shadow:inset 5px 0 0 var(--tape);
    padding-left:12px;
    background:var(--sheet);
  }
  @media (max-width:1180px) {
    & {
      grid-template-columns:minmax(0,1fr) 380px;
      gap:0 20px;
    }
    & .rule {
      grid-template-columns:minmax(0,1fr);
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
