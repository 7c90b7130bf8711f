import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { type Schemas } from "../api/client";
import { useUnits } from "../app/units";
import { Scroll } from "../ui/Scroll";
import { much } from "../ui/much";

type Line = Schemas["StockLine"];

const most = 10;

/** How much one drawn piece stands for. */
const piece: Partial<Record<Line["unit"], number>> = { ml: 50, m: 25 };

const pieces = { "@media (max-width:1180px)": { display: "none" } };

/** How much is here as pieces: what the plans use hatched, what stays filled, what is missing dashed. */
function Pieces({ l }: { l: Line }) {
  const unit = piece[l.unit] ?? 1;
  const here = Math.min(most, Math.ceil(l.here / unit));
  const planned = Math.min(most, Math.ceil(l.planned / unit));
  return (
    <svg viewBox={`0 0 ${most * 13} 14`} width={most * 13} height="14" role="img" aria-label={`${much(l.here, l.unit)} here, ${much(l.planned, l.unit)} planned`}>
      {Array.from({ length: Math.max(here, planned) }, (_, i) => (
        <g key={i} transform={`translate(${i * 13 + 1} 1)`}>
          <rect width="10.5" height="11.5" rx={l.unit === "sheet" ? 1 : 5} fill={i >= here || i < planned ? "var(--sheet)" : "var(--ink2)"} stroke="var(--ink)" strokeDasharray={i >= here ? "2 2" : undefined} />
          {i < Math.min(planned, here) ? <path d="M1 9L9 2M3 11L10 5" stroke="var(--ink)" strokeWidth="1.2" /> : null}
        </g>
      ))}
    </svg>
  );
}

/** What runs out and when, against the plans of the week. */
export function StockTable({ stock, picked, pick, act }: { stock: Schemas["Stock"]; picked: string; pick: (item: string) => void; act: () => void }) {
  const u = useUnits();
  return (
    <section aria-label="What runs out, and when">
      <Box component="h2" className="heading t" sx={{ display: "flex", flexWrap: "wrap", gap: "4px 16px", alignItems: "baseline", marginTop: "18px" }}>
        What runs out, and when <span className="s">against the plans of the week; dashed is missing</span>
      </Box>
      <Scroll label="Stock">
        <Table>
          <TableHead>
            <TableRow>
              <TableCell>thing</TableCell>
              <TableCell sx={pieces}>hatched: planned</TableCell>
              <TableCell align="right">here</TableCell>
              <TableCell align="right">planned</TableCell>
              <TableCell>runs out</TableCell>
              <TableCell align="right">to buy</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {stock.lines
              .filter((l) => l.counted || l.planned > 0)
              .map((l) => (
                <TableRow key={l.item} selected={l.item === picked} sx={{ cursor: "pointer" }} onClick={() => pick(l.item)}>
                  <TableCell>
                    <Button variant="link" sx={{ textDecoration: "none" }} onClick={() => pick(l.item)}>
                      {l.title}
                    </Button>{" "}
                    <span className="s">{l.what}</span>
                  </TableCell>
                  <TableCell sx={pieces}>{l.counted ? <Pieces l={l} /> : null}</TableCell>
                  <TableCell align="right" className="n">{l.counted ? much(l.here, l.unit) : "?"}</TableCell>
                  <TableCell align="right" className="n">{l.planned > 0 ? much(l.planned, l.unit) : "0"}</TableCell>
                  <TableCell sx={{ whiteSpace: "normal" }}>
                    <span className={l.out_at ? "b" : "s"}>{l.text}</span> {l.felt.length > 0 ? <span className="s">{l.felt.slice(0, 2).join(", ")}</span> : null}
                  </TableCell>
                  <TableCell align="right" className="n" title={l.buy > 0 ? `so that ${much(l.low, l.unit)} stay, in packs of ${l.pack}` : ""}>{l.buy > 0 ? much(l.buy, l.unit) : ""}</TableCell>
                </TableRow>
              ))}
          </TableBody>
        </Table>
      </Scroll>
      <Box sx={{ display: "flex", gap: "12px", flexWrap: "wrap", alignItems: "center", paddingTop: "10px" }}>
        <Button variant="tape" onClick={act}>
          Goods in, used, counted <span className="kc">G</span>
        </Button>
        {stock.buy_cost > 0 ? (
          <a className="linkish" href="/api/stock/list.csv" download="shopping list.csv">
            shopping list, {stock.buy_cost.toFixed(0)} {u.money}
          </a>
        ) : null}
      </Box>
    </section>
  );
}
