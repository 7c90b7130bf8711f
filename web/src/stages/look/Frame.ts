import { styled } from "@mui/material/styles";

/** Look: the panel beside what was found; a key for each kind of mark below. */
export const LookFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(0,1fr) 400px;
    grid-template-rows:minmax(0,1fr) auto;
    gap:0 30px;
    height:calc(100vh - 89px);
    min-height:640px;
    padding:10px 0 14px;
    font-size:16px;
    line-height:22px;
  }
  & .thing {
    min-width:0;
    display:flex;
    flex-direction:column;
    position:relative;
  }
  & .crossat {
    position:absolute;
    left:0;
    bottom:2px;
    background:var(--primer);
    padding:2px 6px;
  }
  & .zoom {
    position:absolute;
    right:0;
    bottom:2px;
    display:flex;
    gap:6px;
  }
  & .zoom .MuiButton-root {
    min-width:48px;
    padding:0;
    font-size:22px;
    background:var(--primer);
  }
  & .lookside {
    min-width:0;
    display:flex;
    flex-direction:column;
    gap:10px;
    overflow:auto;
    padding:2px 2px 8px;
  }
  & .lookcar {
    flex:none;
  }
  & .nibcount {
    display:flex;
    align-items:flex-end;
    gap:18px;
  }
  & .nibcount .big {
    font-size:84px;
    line-height:66px;
    font-weight:640;
    letter-spacing:-.02em;
    min-width:84px;
  }
  & .lookwhy {
    border-bottom:1.5px solid var(--ink);
    padding-bottom:10px;
    font-size:15.5px;
    line-height:21px;
    color:var(--ink2);
  }
  & .marklist {
    list-style:none;
    margin:0;
    padding:0;
  }
  & .marklist li {
    border-bottom:1px solid var(--line);
  }
  & .marklist li>.MuiButton-root, & .marklist li:not(:has(button)) {
    display:grid;
    grid-template-columns:44px minmax(0,1fr);
    gap:8px;
    align-items:start;
    padding:6px 0;
    width:100%;
    text-align:left;
    background:none;
    min-height:48px;
  }
  & .marklist li>.MuiButton-root {
    cursor:pointer;
    border:0;
  }
  & .marklist .no {
    font-size:22px;
    padding-top:3px;
  }
  & .marklist .does {
    display:block;
    font-size:14.5px;
    line-height:19px;
    color:var(--ink2);
  }
  & .lookkeys {
    grid-column:1/-1;
    display:flex;
    gap:8px;
    padding-top:12px;
  }
  & .lookkeys.all {
    flex-wrap:wrap;
  }
  & .lookkeys .MuiButton-root {
    min-height:84px;
    position:relative;
    font-size:16px;
  }
  & .markkey {
    flex:1 1 60px;
    flex-direction:column;
    gap:4px;
    padding:18px 4px 8px;
    justify-content:flex-end;
  }
  & .lookkeys .wide {
    flex:1.6 1 96px;
    padding:0 8px;
  }
  & .lookkeys .kc {
    position:absolute;
    right:6px;
    top:6px;
  }
  & .lookkeys .cnt {
    position:absolute;
    left:9px;
    top:5px;
    font-size:15px;
  }
  &.booth .lookkeys .MuiButton-root {
    min-height:104px;
    font-size:17px;
  }
  & .markform {
    display:grid;
    gap:10px;
  }
  & .markform .MuiButton-root {
    min-height:44px;
  }
  @media (max-width:1180px) {
    & {
      grid-template-columns:minmax(0,1fr) 330px;
      gap:0 18px;
    }
    &.booth .lookkeys .MuiButton-root, & .lookkeys .MuiButton-root {
      min-height:80px;
    }
  }
  @media (max-width:900px) {
    & {
      display:flex;
      flex-direction:column;
      height:auto;
      min-height:0;
      gap:10px;
      padding-bottom:24px;
    }
    & .thing {
      height:38vh;
      min-height:260px;
      flex:none;
    }
    & .lookcar {
      display:none;
    }
    & .lookside {
      display:contents;
    }
    & .lookside>* {
      order:5;
    }
    & .lookside>.nibcount, & .lookside>.notice {
      order:1;
    }
    & .lookside>.markform {
      order:1;
    }
    & .nibcount .big {
      font-size:64px;
      line-height:52px;
    }
    & .lookkeys, &.booth .lookkeys {
      order:2;
      display:grid;
      grid-template-columns:repeat(4,1fr);
      gap:9px;
      padding-top:4px;
    }
    & .lookkeys .MuiButton-root, &.booth .lookkeys .MuiButton-root {
      min-height:80px;
    }
    & .lookkeys .wide {
      grid-column:span 2;
    }
    & .lookkeys .more {
      grid-column:1/-1;
      order:9;
      min-height:48px!important;
      padding:8px;
    }
    & .lookkeys .markkey .kc {
      display:none;
    }
    & .lookkeys .cnt {
      left:auto;
      right:9px;
    }
  }
`;
