import { styled } from "@mui/material/styles";

/** Take in: which car, its panels, what is said of them. */
export const TakeInFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:304px minmax(0,1fr) 372px;
    gap:0 24px;
    min-height:calc(100vh - 89px);
    padding:12px 0 12px;
  }
  &.known {
    grid-template-columns:minmax(0,1fr) 360px 330px;
  }
  &.known .ownerwords {
    margin-top:10px;
  }
  &>section {
    min-width:0;
    display:flex;
    flex-direction:column;
    gap:8px;
  }
  & .pair {
    display:grid;
    grid-template-columns:1fr 1fr;
    gap:10px;
  }
  & .bodies {
    grid-column:2/-1;
    display:grid;
    grid-template-columns:repeat(4,minmax(0,1fr));
    gap:6px 20px;
    align-content:start;
    padding-top:34px;
  }
  & .bodies .MuiButton-root {
    background:none;
    border:0;
    border-bottom:1px solid var(--lineStrong);
    padding:6px 4px 4px;
    cursor:pointer;
    text-align:left;
    min-height:48px;
  }
  & .bodies .MuiButton-root>span {
    display:flex;
    justify-content:space-between;
    align-items:center;
    font-size:15px;
    gap:6px;
  }
  & .bodies .MuiButton-root[aria-pressed=true] {
    background:var(--sheet);
    box-shadow:inset 0 -3px 0 var(--ink);
    font-weight:650;
  }
  & .folded {
    display:flex;
    justify-content:space-between;
    align-items:center;
    border-top:1.5px solid var(--ink);
    padding-top:8px;
  }
  & .groups {
    list-style:none;
    margin:0;
    padding:0;
    border-top:1.5px solid var(--ink);
    max-height:168px;
    overflow:auto;
    flex:none;
  }
  & .groups li {
    border-bottom:1px solid var(--line);
  }
  & .groups .MuiButton-root {
    display:flex;
    gap:12px;
    align-items:center;
    width:100%;
    background:none;
    border:0;
    padding:4px 2px;
    min-height:40px;
    text-align:left;
    cursor:pointer;
    font-size:14.5px;
    line-height:19px;
  }
  & .groups .MuiButton-root[aria-pressed=true] {
    background:var(--sheet);
  }
  & .groups svg {
    flex:none;
  }
  & .ownerwords {
    display:grid;
    grid-template-columns:minmax(0,1fr) 116px 96px;
    gap:14px;
    align-items:start;
    margin-top:auto;
  }
  & .badge {
    display:inline-flex;
    min-width:26px;
    height:26px;
    border-radius:13px;
    background:var(--tape);
    color:var(--onTape);
    align-items:center;
    justify-content:center;
    font-size:14px;
    border:1.5px solid var(--onTape);
    padding:0 6px;
  }
  & .answers {
    display:grid;
    grid-template-columns:minmax(0,1fr);
    gap:7px;
  }
  & .answers .MuiToggleButton-root {
    height:34px;
    padding:0 4px;
  }
  & .sprayed {
    display:grid;
    grid-template-columns:minmax(0,1fr);
    gap:12px;
  }
  & .guess {
    display:grid;
    grid-template-columns:auto minmax(0,1fr) auto;
    gap:2px 12px;
    align-items:center;
    border-top:1.5px solid var(--ink);
    padding-top:8px;
    margin-top:4px;
  }
  & .tellings {
    list-style:none;
    margin:0;
    padding:0;
    border-top:1.5px solid var(--ink);
  }
  & .tellings li {
    display:grid;
    grid-template-columns:16px minmax(0,1fr) auto;
    gap:8px;
    padding:7px 0;
    border-bottom:1px solid var(--line);
    font-size:14.5px;
    line-height:19px;
  }
  & .tellings .linkish {
    min-height:32px;
    font-size:14px;
  }
  & .checklist {
    list-style:none;
    margin:0;
    padding:0;
    border-top:1.5px solid var(--ink);
  }
  & .checklist label {
    display:flex;
    gap:10px;
    align-items:center;
    min-height:34px;
    border-bottom:1px solid var(--line);
    font-size:14.5px;
    cursor:pointer;
  }
  & .checklist label>span:nth-child(2) {
    flex:1;
  }
  @media (max-width:1180px) {
    & .bodies {
      grid-template-columns:repeat(3,minmax(0,1fr));
    }
    &, &.known {
      grid-template-columns:290px minmax(0,1fr) 310px;
      gap:0 18px;
    }
    &.known {
      grid-template-columns:minmax(0,1fr) 320px;
    }
    &.known .which {
      grid-column:1/-1;
    }
    & .ownerwords {
      grid-template-columns:minmax(0,1fr) 100px 84px;
    }
  }
  @media (max-width:900px) {
    &, &.known {
      display:flex;
      flex-direction:column;
      gap:16px;
    }
    & .panels>svg {
      height:300px;
    }
  }
  @media (min-width:901px) {
    & .panels>svg {
      height:clamp(220px, calc(100vh - 420px), 392px);
    }
  }
`;
