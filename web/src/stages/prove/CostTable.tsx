import { Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { Link } from "react-router";
import type { Estimate, Schemas } from "../../api/client";
import { short } from "../../app/format";
import { useUnits } from "../../app/units";
import { FilmBar } from "./FilmBar";

/** From what to what, the earlier one lighter. */
function FromTo({ from, to, show, kept }: { from: Estimate | undefined; to: Estimate | undefined; show: (v: number) => string; kept: boolean }) {
  if (!from && !to) return <span className="s">not read</span>;
  if (from && to && !kept)
    return (
      <>
        <span className="was">{show(from.mean)} →</span> <b>{show(to.mean)}</b>
      </>
    );
  const one = to ?? from;
  return one ? (
    <span className={to ? "" : "was"}>
      {show(one.mean)}
      {from && to ? ", kept" : ""}
    </span>
  ) : null;
}

const meter = (c: Schemas["MeterChange"] | undefined) => (
  <FromTo from={c?.before} to={c?.after} show={(v) => v.toFixed(0)} kept={c?.differs === false} />
);

/** The row of the panel in hand is seen, however long the table. */
const seen = (row: HTMLTableRowElement | null) => row?.scrollIntoView({ block: "nearest" });

/** What work cost and gave, panel by panel. */
export function CostTable({ lines, panel, open }: { lines: Schemas["ProofLine"][]; panel: string; open: (id: string) => void }) {
  const u = useUnits();
  const most = Math.max(1, ...lines.map((l) => l.opening_um ?? 0));
  return (
    <Table className="cost">
      <TableHead>
        <TableRow>
          <TableCell>panel and aim</TableCell>
          <TableCell>clear, floor to top</TableCell>
          <TableCell align="right">
            spent
            <br />
            {u.name}
          </TableCell>
          <TableCell align="right">
            clear now
            <br />
            {u.name}
          </TableCell>
          <TableCell>
            gloss
            <br />%
          </TableCell>
          <TableCell>
            clarity
            <br />
            of 100
          </TableCell>
          <TableCell>
            peel
            <br />
            grade
          </TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {lines.map((l) => (
          <TableRow key={l.panel_id} selected={l.panel_id === panel} {...(l.panel_id === panel ? { ref: seen } : {})} onClick={() => open(l.panel_id)}>
            <TableCell>
              <Link to={`/panels/${encodeURIComponent(l.panel_id)}/prove`} aria-current={l.panel_id === panel ? "page" : undefined} onClick={(e) => e.stopPropagation()} style={{ color: "inherit", textDecoration: "none", fontWeight: 700, display: "inline-block", minHeight: 24, maxWidth: 150, whiteSpace: "normal" }}>
                {l.name}
              </Link>
              {l.kept ? <span className="s"> ✓ kept</span> : null}
              <br />
              <span className="s">{l.aim}</span>
            </TableCell>
            <TableCell>
              <FilmBar line={l} most={most} />
            </TableCell>
            <TableCell align="right" className="n">
              {l.spent_um ? u.um(l.spent_um.mean) : "–"}
            </TableCell>
            <TableCell align="right" className="n">
              {l.clear_um ? (
                <>
                  {u.um(l.clear_um.mean)} <span className="pm">± {u.um(l.clear_um.sd)}</span>
                </>
              ) : (
                "–"
              )}
            </TableCell>
            <TableCell>{meter(l.gloss)}</TableCell>
            <TableCell>{meter(l.clarity)}</TableCell>
            <TableCell title={l.after?.text ?? l.before.text}>
              <FromTo from={l.before.grade} to={l.after?.grade} show={short} kept={l.after !== undefined && l.before.grade.mean === l.after.grade.mean} />
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
