import { styled } from "@mui/material/styles";

/** Condition: the panel beside the pictures that it is compared with; keys below. */
export const ConditionFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:360px minmax(0,1fr);
    grid-template-rows:minmax(0,1fr) auto;
    gap:8px 32px;
    min-height:calc(100vh - 89px);
    padding:10px 0 14px;
    font-size:15px;
    line-height:20px;
  }
  & h2 {
    font-size:18px;
    line-height:26px;
    margin:0 0 4px;
    display:flex;
    flex-wrap:wrap;
    justify-content:space-between;
    gap:0 16px;
  }
  & h2 .s {
    font-family:"Hanken Grotesk Variable";
    font-weight:400;
  }
  & .panelside {
    display:flex;
    flex-direction:column;
    min-width:0;
  }
  & .panelside .outline {
    flex:1 1 0;
    min-height:200px;
    display:flex;
    flex-direction:column;
  }
  & .lamps {
    display:grid;
    grid-template-columns:repeat(5,minmax(0,1fr));
    gap:10px;
  }
  & .lamps.wet {
    grid-template-columns:repeat(3,minmax(0,1fr));
  }
  & .lamp.MuiButton-root {
    display:grid;
    align-content:start;
    padding:0;
    border-bottom:1px solid var(--line);
    border-radius:0;
    text-align:left;
    min-height:48px;
  }
  & .lamp[aria-pressed=true] {
    background:var(--sheet);
    box-shadow:inset 0 -4px 0 var(--ink);
  }
  & .lamp img {
    display:block;
    width:100%;
    aspect-ratio:8/7;
    object-fit:cover;
    border:1px solid var(--ink);
  }
  & .lamps.wet .lamp img {
    aspect-ratio:5/3;
  }
  & .lamp .said {
    display:block;
    padding:4px 6px 8px;
  }
  & .lamp .lampname {
    display:flex;
    justify-content:space-between;
    font-weight:640;
    font-size:16px;
  }
  & .lamp .s {
    display:block;
    line-height:18px;
  }
  & .second {
    display:grid;
    grid-template-columns:minmax(0,1.6fr) minmax(0,1fr);
    gap:28px;
    margin-top:10px;
  }
  & .test p {
    margin:2px 0 4px;
  }
  & .test>div {
    display:grid;
    grid-template-columns:1fr 1fr;
    gap:8px;
    margin-bottom:6px;
  }
  & .test .MuiButton-root, & .keysrow .MuiButton-root {
    justify-content:space-between;
    text-align:left;
    min-height:52px;
  }
  & .test .on, & .keysrow .on, & .shares .on {
    background:var(--sheet);
    box-shadow:inset 0 -4px 0 var(--ink);
  }
  & .sub {
    display:block;
    font-weight:450;
    line-height:17px;
  }
  & .shares {
    display:grid;
    grid-template-columns:minmax(0,1.3fr);
    grid-auto-columns:minmax(0,1fr);
    grid-auto-flow:column;
    gap:4px 12px;
    border-top:1.5px solid var(--ink);
    margin-top:8px;
    padding-top:8px;
    align-items:start;
  }
  & .shares p {
    margin:0;
  }
  & .shares>p:only-child {
    grid-column:1/-1;
  }
  & .share.MuiButton-root {
    display:grid;
    justify-items:start;
    align-content:start;
    gap:1px;
    padding:4px 10px 8px;
    text-align:left;
    border-bottom:1px solid var(--line);
    border-radius:0;
    min-height:84px;
  }
  & .share[aria-pressed=true] {
    background:var(--sheet);
    box-shadow:inset 0 -4px 0 var(--ink);
  }
  & .share .big {
    font-size:25px;
    line-height:28px;
    font-weight:640;
  }
  & .keysrow {
    grid-column:1/-1;
    display:grid;
    grid-template-columns:2fr 1.3fr 1fr .8fr .9fr 1.1fr;
    gap:10px;
    position:sticky;
    bottom:0;
    padding:8px 0;
    background:var(--primer);
    z-index:1;
  }
  & .keysrow .MuiButton-root {
    min-height:64px;
    font-size:16px;
  }
  @media (max-width:1100px) {
    & {
      grid-template-columns:240px minmax(0,1fr);
      grid-template-rows:auto auto;
      gap:8px 20px;
    }
    & .keysrow {
      grid-template-columns:1.7fr 1.3fr 1fr .8fr .8fr 1fr;
      gap:8px;
      position:static;
    }
    & .keysrow .MuiButton-root {
      font-size:15px;
      padding:4px 10px;
    }
    & .share.MuiButton-root {
      min-height:70px;
    }
    & .test .MuiButton-root {
      padding:4px 8px;
    }
  }
  @media (max-width:760px) {
    & {
      grid-template-columns:minmax(0,1fr);
    }
    & .panelside .outline {
      flex:none;
      height:260px;
    }
    & .lamps, & .lamps.wet {
      grid-template-columns:repeat(2,minmax(0,1fr));
    }
    & .second, & .shares {
      grid-template-columns:minmax(0,1fr);
      grid-auto-flow:row;
    }
    & .keysrow {
      grid-template-columns:1fr 1fr;
      position:static;
    }
  }
`;
