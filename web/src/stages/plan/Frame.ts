import { styled } from "@mui/material/styles";
import { stacked } from "../../app/theme/frames";

/** Plan: the ways beside the steps of the one in hand. */
export const PlanFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:400px minmax(0,1fr);
    gap:0 32px;
    padding:12px 0 10px;
    height:calc(100vh - 89px);
    min-height:700px;
    grid-template-rows:minmax(0,1fr);
  }
  &>section {
    min-width:0;
    display:flex;
    flex-direction:column;
    min-height:0;
  }
  & .offers tr {
    cursor:pointer;
  }
  & .offers td {
    height:34px;
  }
  & .offers .Mui-selected td:first-child {
    box-shadow:inset 5px 0 0 var(--tape);
  }
  & .offers .MuiButton-root {
    background:none;
    border:0;
    padding:0 0 0 10px;
    cursor:pointer;
    display:flex;
    gap:10px;
    align-items:center;
    font-weight:650;
    min-height:33px;
    width:100%;
    text-align:left;
    white-space:normal;
  }
  & .below {
    flex:1;
    min-height:90px;
    overflow:auto;
    padding-top:6px;
  }
  & .below p+p {
    margin-top:4px;
  }
  & .ladder {
    display:grid;
    grid-template-columns:26px minmax(150px,186px) 40px 100px minmax(110px,1fr) minmax(110px,1fr) 44px;
    gap:0 10px;
    align-items:center;
  }
  & .ladder .row {
    display:contents;
  }
  & .ladder .line {
    grid-column:1/-1;
    height:1px;
    background:var(--line);
  }
  & .ladder .cell {
    padding:6px 0;
  }
  & .ladder .step {
    font-size:26px;
    line-height:28px;
  }
  & .ladder .stepname {
    background:none;
    border:0;
    padding:0;
    text-align:left;
    cursor:pointer;
    width:100%;
  }
  & .ladder .picked {
    grid-column:1/-1;
    background:var(--sheet);
    display:flex;
    flex-wrap:wrap;
    gap:6px 8px;
    align-items:center;
    padding:5px 8px;
    border-bottom:1px solid var(--line);
  }
  & .ladder .picked .MuiButton-root {
    min-height:36px;
    font-size:14px;
    padding:0 10px;
    gap:6px;
  }
  & .ladder .picked .MuiFormControl-root {
    width:auto;
    max-width:250px;
  }
  & .ladder .wrong {
    grid-column:2/-1;
    font-size:13px;
    line-height:17px;
    padding:0 0 5px;
    color:var(--ink);
  }
  & .ladder .wrong::before {
    content:"";
    display:inline-block;
    width:9px;
    height:9px;
    margin-right:7px;
    background:var(--tight);
    border:1px solid var(--ink);
    transform:rotate(45deg);
  }
  & .ladder img {
    display:block;
    width:100%;
    height:74px;
    border:1px solid var(--ink);
    object-fit:cover;
  }
  & .cloud {
    display:block;
    width:100%;
    overflow:visible;
    touch-action:manipulation;
  }
  & .cloud circle, & .cloud path.pt {
    cursor:pointer;
  }
  @media (max-width:1180px) {
    & {
      min-height:660px;
    }
    & {
      grid-template-columns:320px minmax(0,1fr);
      gap:0 20px;
    }
    & .ladder {
      grid-template-columns:20px minmax(120px,150px) 34px 92px minmax(90px,1fr) minmax(90px,1fr) 40px;
    }
  }
  @media (max-width:900px) {
    & {
      ${stacked}
    }
    &>section {
      width:100%;
    }
    & .ladder {
      grid-template-columns:20px 1fr 34px 86px;
    }
    & .ladder .pic, & .ladder .clar {
      display:none;
    }
    & .below {
      max-height:none;
    }
  }
`;

/** Plan where nothing reaches the aim: how it stands beside every way on. */
export const WaysFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:400px minmax(0,1fr);
    gap:0 32px;
    padding:10px 0 14px;
  }
  &>section {
    min-width:0;
    display:flex;
    flex-direction:column;
    gap:8px;
  }
  & .state {
    display:flex;
    align-items:center;
    gap:12px;
  }
  & .state .tag {
    font-size:34px;
    line-height:40px;
    gap:12px;
  }
  & .state .tag svg {
    width:42px;
    height:30px;
  }
  & .state .s {
    font-family:"Hanken Grotesk Variable";
    font-weight:450;
    line-height:19px;
  }
  & .n.deciding {
    font-size:27px;
    line-height:34px;
  }
  & section p .n {
    font-size:19px;
    line-height:26px;
    font-weight:700;
  }
  & .lying {
    display:flex;
    justify-content:space-between;
    gap:10px;
  }
  & .cloud {
    display:block;
    width:100%;
    overflow:visible;
  }
  & .ways {
    display:grid;
    gap:10px;
  }
  & .heading {
    font-size:18px;
    line-height:24px;
    padding-bottom:5px;
  }
  & .rows {
    display:grid;
    gap:7px;
  }
  & .questions {
    display:grid;
    grid-template-columns:repeat(auto-fit,minmax(200px,1fr));
    gap:8px;
  }
  & .way {
    justify-content:flex-start;
    text-align:left;
    gap:12px;
    min-height:54px;
    padding:6px 12px 6px 14px;
    font-weight:450;
    line-height:19px;
  }
  & .way[aria-pressed=true] {
    box-shadow:inset 7px 0 0 var(--tape);
    background:var(--sheet);
  }
  & .questions .way {
    align-items:flex-start;
    flex-wrap:nowrap;
  }
  & .way .what {
    flex:1 1 auto;
    min-width:0;
    display:flex;
    flex-direction:column;
    gap:1px;
  }
  & .way .chance {
    flex:0 1 250px;
    text-align:right;
    font-size:15px;
  }
  & .way .tag {
    flex:none;
    min-width:74px;
  }
  & .asks {
    margin-top:auto;
  }
  & .foot {
    border-top:2px solid var(--ink);
    padding-top:10px;
    display:flex;
    flex-wrap:wrap;
    align-items:flex-end;
    gap:12px;
  }
  & .foot .say {
    flex:1 1 300px;
    line-height:20px;
  }
  & .foot .whole {
    flex-basis:100%;
  }
  & .foot .MuiFormControl-root {
    flex:1 1 150px;
    width:auto;
  }
  @media (max-width:1180px) {
    & {
      grid-template-columns:330px minmax(0,1fr);
      gap:0 22px;
    }
    & .way .chance {
      flex-basis:170px;
    }
  }
  @media (max-width:900px) {
    & {
      ${stacked}
    }
    &>section {
      width:100%;
    }
    & .way {
      flex-wrap:wrap;
    }
    & .way .what {
      flex:1 1 200px;
    }
    & .foot .MuiFormControl-root {
      flex-basis:100%;
    }
    & .way .chance {
      flex:1 1 160px;
      text-align:left;
    }
  }
`;
