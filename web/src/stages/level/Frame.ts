import { styled } from "@mui/material/styles";
import { stacked } from "../../app/theme/frames";

/** Level: the section, what is left, the film; keys below. */
export const LevelFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(300px,500px) minmax(0,1fr) 190px;
    grid-template-rows:minmax(0,1fr) auto;
    gap:0 28px;
    height:calc(100vh - 89px);
    min-height:640px;
    padding:14px 0 12px;
    font-size:17px;
    line-height:25px;
  }
  & .passes {
    font-family:"Archivo Variable",sans-serif;
    font-weight:640;
    font-stretch:118%;
    font-size:min(260px,27vh);
    line-height:.8;
    letter-spacing:-.02em;
    font-feature-settings:"tnum";
  }
  & .passes.none {
    font-size:min(120px,14vh);
  }
  & .levelkeys {
    grid-column:1/-1;
    display:grid;
    gap:9px 12px;
    grid-template-columns:repeat(12,1fr);
    padding-top:10px;
  }
  & .levelkeys .MuiButton-root {
    min-height:72px;
    font-size:20px;
    justify-content:space-between;
    text-align:left;
    padding:0 16px;
  }
  & .levelkeys .MuiButton-root .sub {
    font-size:15px;
    line-height:18px;
    font-weight:450;
    display:block;
  }
  & .levelkeys .main {
    min-height:90px;
  }
  & .levelkeys .wrong {
    grid-column:1/-1;
    display:flex;
    flex-wrap:wrap;
    gap:6px 10px;
    align-items:center;
  }
  & .levelkeys .wrong .MuiButton-root {
    min-height:48px;
    font-size:16px;
    padding:0 12px;
    gap:8px;
  }
  & .levelkeys .wrong .kc {
    font-size:12px;
    height:22px;
    line-height:18px;
    min-width:22px;
    padding:0 5px;
  }
  & .levelkeys .wrong .s {
    margin-left:auto;
  }
  & .levelkeys .tape .big {
    font-size:30px;
    line-height:32px;
  }
  & .levelkeys .kc {
    font-size:15px;
    height:30px;
    line-height:25px;
    padding:0 8px;
    min-width:32px;
    flex:none;
  }
  @media (max-width:1180px) {
    & {
      min-height:660px;
    }
    & {
      grid-template-columns:minmax(260px,360px) minmax(0,1fr) 160px;
      gap:0 18px;
      font-size:15.5px;
      line-height:21px;
    }
    & .passes {
      font-size:min(180px,21vh);
    }
    & .levelkeys .wrong {
      gap:6px 8px;
    }
    & .levelkeys .wrong .MuiButton-root {
      padding:0 9px;
      font-size:15px;
    }
    & .levelkeys .main .sub {
      font-size:13.5px;
    }
    & .hand .t {
      font-size:30px;
      line-height:34px;
    }
  }
  @media (max-width:900px) {
    & {
      ${stacked}
    }
    & .hand {
      order:-2;
    }
    &>section {
      width:100%;
    }
    & {
      padding-bottom:150px;
    }
    & .levelkeys {
      order:-1;
      display:grid;
      grid-template-columns:repeat(2,1fr);
    }
    & .passes {
      font-size:200px;
    }
    & .levelkeys .MuiButton-root {
      grid-column:auto!important;
    }
    & .levelkeys .main.tape {
      position:fixed;
      left:14px;
      right:14px;
      bottom:10px;
      min-height:124px;
      z-index:2;
    }
  }
  @media (max-width:900px) and (max-height:520px) and (orientation:landscape) {
    & {
      display:grid;
      grid-template-columns:minmax(0,1fr) minmax(0,1fr);
      grid-template-rows:auto;
      gap:14px 18px;
      padding-bottom:20px;
    }
    & .hand {
      grid-column:1;
      grid-row:1;
      max-height:calc(100vh - 110px);
    }
    & .levelkeys {
      grid-column:2;
      grid-row:1;
      padding-top:0;
      max-height:calc(100vh - 110px);
      overflow:auto;
      align-content:start;
    }
    & .levelkeys .main.tape {
      position:static;
      grid-column:1/-1!important;
      grid-row:1;
      min-height:96px;
    }
    & .passes {
      font-size:120px;
    }
    & .hand .t {
      font-size:24px;
      line-height:28px;
    }
  }
  @media (max-height:790px) and (min-width:901px) {
    & section>svg {
      max-height:calc(100vh - 470px);
    }
  }
`;
