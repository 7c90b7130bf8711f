import { styled } from "@mui/material/styles";
import { stacked } from "../../app/theme/frames";

/** Prove: what the lamps show at the left; what it cost and gave at the right. */
export const ProveFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(0,576fr) minmax(0,624fr);
    gap:0 32px;
    padding:12px 0 14px;
    font-size:15px;
    line-height:20px;
    min-height:calc(100vh - 89px);
  }
  & h2 {
    font-size:18px;
    line-height:24px;
    margin:0 0 6px;
    display:flex;
    flex-wrap:wrap;
    justify-content:space-between;
    align-items:baseline;
    gap:0 16px;
  }
  & h2 .s {
    font-family:"Hanken Grotesk Variable";
    font-weight:400;
  }
  & h3 {
    font-size:14px;
    line-height:18px;
    font-weight:700;
    margin:0 0 6px;
  }
  & .left, & .right {
    min-width:0;
    display:flex;
    flex-direction:column;
  }
  & .slide {
    position:relative;
    aspect-ratio:2;
    overflow:hidden;
    border:1.5px solid var(--ink);
    background:var(--sunk);
  }
  & .slide img {
    position:absolute;
    top:0;
    left:0;
    max-width:none;
    display:block;
  }
  & .slide .lost {
    position:absolute;
    inset:0;
    display:grid;
    place-content:center;
    justify-items:center;
    text-align:center;
    padding:16px;
    gap:6px;
    color:var(--ink2);
  }
  & .slide .shade {
    position:absolute;
    inset:0;
    overflow:hidden;
    background:var(--sunk);
  }
  & .slide .edge {
    position:absolute;
    top:0;
    bottom:0;
    width:5px;
    margin-left:-2.5px;
    background:var(--tape);
    border:1.5px solid var(--onTape);
    border-width:0 1.5px;
    pointer-events:none;
  }
  & .under {
    display:grid;
    grid-template-columns:minmax(0,1fr) auto minmax(0,1fr);
    align-items:center;
    gap:0 12px;
    min-height:44px;
  }
  & .under .to {
    text-align:right;
  }
  & .under b {
    font-weight:700;
  }
  & .handle {
    width:190px;
  }
  & .handle .MuiSlider-root {
    padding:11px 0;
    display:block;
  }
  & .photos {
    display:flex;
    flex-wrap:wrap;
    gap:8px;
    align-items:stretch;
    border-top:1px solid var(--ink);
    padding:8px 0;
  }
  & .thumbs {
    display:flex;
    gap:8px;
    flex:1 1 auto;
    flex-wrap:wrap;
  }
  & .thumb.MuiButton-root {
    flex:none;
    width:82px;
    display:block;
    border:1px solid var(--line);
    padding:0 0 3px;
    background:var(--sheet);
    border-radius:0;
    font-size:12.5px;
    line-height:15px;
    text-align:center;
    position:relative;
  }
  & .thumb[aria-pressed=true] {
    border-color:var(--ink);
    box-shadow:inset 0 -4px 0 var(--ink);
  }
  & .thumb img, & .thumb .none {
    display:block;
    width:100%;
    height:32px;
    object-fit:cover;
    margin-bottom:2px;
    background:var(--sunk);
  }
  & .thumb.struck img {
    opacity:.4;
  }
  & .takes {
    display:flex;
    gap:8px;
    align-items:stretch;
  }
  & .takes .MuiButton-root {
    min-height:64px;
    padding:0 10px;
    text-align:left;
  }
  & .cards {
    display:grid;
    grid-template-columns:1fr 1fr;
    gap:24px;
    border-top:1px solid var(--ink);
    padding-top:8px;
    margin-top:auto;
  }
  & .cards img {
    display:block;
    width:100%;
    aspect-ratio:2.5;
    object-fit:cover;
    border:1px solid var(--ink);
    background:var(--sunk);
  }
  & .cards .big {
    font-size:24px;
    line-height:30px;
    font-weight:640;
  }
  & .cards .s {
    line-height:18px;
  }

  & .cost .MuiTableCell-root {
    height:46px;
    padding-top:4px;
    padding-bottom:4px;
    font-size:14.5px;
  }
  & .cost .MuiTableCell-head {
    height:auto;
  }
  & .cost .MuiTableCell-root:first-of-type, & .two .MuiTableCell-root:first-of-type {
    padding-left:8px;
  }
  & .cost tr {
    cursor:pointer;
  }
  & .cost .pm, & .cost .was {
    font-weight:400;
    color:var(--ink2);
  }
  & .two {
    display:grid;
    grid-template-columns:minmax(0,300fr) minmax(0,296fr);
    gap:0 28px;
    margin-top:14px;
  }
  & .two .MuiTableCell-root {
    height:30px;
  }
  & .why {
    margin:0;
    padding:0;
    list-style:none;
  }
  & .left h2, & .right h2 {
    margin-bottom:4px;
  }
  & .why li {
    border-bottom:1px solid var(--line);
    padding:5px 0 6px;
    line-height:19px;
  }
  & .verdict {
    display:grid;
    grid-template-columns:minmax(0,1fr) 232px;
    gap:10px 24px;
    border-top:1.5px solid var(--ink);
    padding-top:10px;
    margin-top:auto;
    align-items:start;
  }
  & .verdict h2 {
    font-size:18px;
  }
  & .verdict p {
    margin:0 0 6px;
  }
  & .verdict .ends {
    display:grid;
    gap:8px;
  }
  & .verdict .ends .MuiButton-root {
    justify-content:space-between;
    text-align:left;
    min-height:52px;
    width:100%;
  }
  & .verdict .ends .MuiButton-root:last-child {
    min-height:44px;
  }
  & .hints {
    display:flex;
    flex-wrap:wrap;
    gap:0 14px;
  }
  & .todos {
    margin:0 0 6px;
    padding:0;
    list-style:none;
  }
  & .todos li {
    display:flex;
    justify-content:space-between;
    align-items:baseline;
    gap:10px;
    border-bottom:1px solid var(--line);
    padding:3px 0;
  }
  & .todos .bars {
    font-weight:650;
  }
  @media (max-width:1180px) {
    & {
      grid-template-columns:minmax(0,400fr) minmax(0,556fr);
      gap:0 20px;
      font-size:14.5px;
    }
    & .verdict {
      grid-template-columns:minmax(0,1fr) 190px;
      gap:8px 14px;
    }
    & .two {
      gap:0 16px;
    }
    & .handle {
      width:96px;
    }
  }
  @media (max-width:900px) {
    & {
      ${stacked}
    }
    & .thumbs {
      flex-basis:100%;
    }
    & .cards, & .two, & .verdict {
      grid-template-columns:minmax(0,1fr);
      gap:14px;
    }
  }
`;
