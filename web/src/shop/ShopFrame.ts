import { styled } from "@mui/material/styles";

/** The shop itself: how it shows itself at the left, its data in its own hands at the right. */
export const ShopFrame = styled("div")`
  & {
    display:grid;
    grid-template-columns:minmax(0,1fr) minmax(0,1fr);
    gap:0 44px;
    padding:14px 0 24px;
    align-items:start;
  }
  & section {
    display:grid;
    gap:12px;
    margin-bottom:26px;
  }
  & h2 {
    font-size:20px;
    line-height:26px;
    margin:0;
    padding-bottom:6px;
    border-bottom:1.5px solid var(--ink);
  }
  & .pairs {
    display:grid;
    grid-template-columns:1fr 1fr;
    gap:12px 16px;
  }
  & .triple {
    display:grid;
    grid-template-columns:1fr 1fr 1fr;
    gap:12px;
    align-items:end;
  }
  & p {
    margin:0;
  }
  & ul.list {
    list-style:none;
    margin:0;
    padding:0;
  }
  & ul.list>li {
    border-bottom:1px solid var(--line);
    display:flex;
    flex-wrap:wrap;
    justify-content:space-between;
    align-items:center;
    gap:0 14px;
    min-height:48px;
  }
  @media (max-width:900px) {
    & {
      display:block;
    }
  }
  @media (max-width:520px) {
    & .pairs, & .triple {
      grid-template-columns:1fr;
    }
  }
`;
