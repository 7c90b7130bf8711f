import { styled } from "@mui/material/styles";
import { stacked } from "../../app/theme/frames";

/** Quick check: what is known, the answer, the clear. */
export const CheckFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(380px,1fr) minmax(320px,390px) 190px;
    gap:0 34px;
    padding:14px 0 16px;
  }
  &>section {
    min-width:0;
    display:flex;
    flex-direction:column;
    gap:12px;
  }
  & .film {
    display:flex;
    align-items:flex-end;
    gap:10px;
    flex-wrap:wrap;
  }
  & .film input {
    font-size:34px;
    line-height:40px;
    height:56px;
  }
  & .peels {
    display:grid;
    grid-template-columns:repeat(5,minmax(0,1fr));
    gap:8px;
  }
  & .peels img {
    width:100%;
    height:56px;
    object-fit:cover;
    display:block;
  }
  & .peels .MuiButton-root {
    display:block;
    font-size:13px;
    line-height:18px;
    border-bottom:2px solid transparent;
  }
  & .peels .MuiButton-root[aria-pressed=true] {
    border-bottom-color:var(--ink);
    font-weight:700;
    background:var(--sheet);
  }
  & .state {
    display:flex;
    align-items:center;
    gap:14px;
    font-size:44px;
    line-height:50px;
  }
  & .state .tag {
    font-size:44px;
    line-height:50px;
    gap:14px;
  }
  & .state svg {
    width:56px;
    height:44px;
  }
  & .chance {
    border-bottom:1px solid var(--line);
    padding:4px 0 8px;
  }
  & .chance .n {
    font-size:24px;
    line-height:32px;
    margin-right:8px;
  }
  & .helps {
    display:grid;
    grid-template-columns:repeat(auto-fit,minmax(200px,1fr));
    gap:10px;
  }
  & .helps>div {
    border:1px solid var(--line);
    border-radius:4px;
    background:var(--sheet);
    padding:10px 14px;
  }
  & .helps .MuiButton-root {
    display:flex;
    justify-content:flex-start;
    gap:8px;
    min-height:34px;
  }
  & .way {
    display:flex;
    gap:10px;
    align-items:flex-start;
    padding:5px 0;
  }
  & .way .tag {
    flex:0 0 76px;
  }
  & .keys2 {
    display:flex;
    gap:10px;
    flex-wrap:wrap;
  }
  @media (max-width:900px) {
    & {
      ${stacked}
    }
    & .answer {
      order:-1;
    }
    & .core {
      order:2;
    }
    & .film .kc {
      display:none;
    }
    & .core .MuiButton-root {
      min-height:96px;
    }
    & .core svg {
      display:none;
    }
  }
  @media (min-width:901px) and (max-width:1180px) {
    & {
      grid-template-columns:minmax(360px,1fr) minmax(280px,330px) 170px;
      gap:0 20px;
    }
  }
`;
