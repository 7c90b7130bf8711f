import { useUnits } from "../app/units";
import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { useChanged, usePeople, useShelf, useStock } from "../api/queries";
import { NumberField } from "../ui/NumberField";
import { Tick } from "../ui/Field";
import { scaleLog } from "d3-scale";
import { api, type Schemas } from "../api/client";
import { Scroll } from "../ui/Scroll";
import { Notice } from "../ui/Notice";
import { Num } from "../ui/Num";
import { Page } from "../app/Page";
import { useKeys } from "../app/keys";
import { count } from "../app/format";
import { ShelfFrame } from "./ShelfFrame";
import { StockAsk } from "./StockAsk";
import { StockTable } from "./StockTable";

type Shelf = Schemas["Shelf"];
type Cutter = Schemas["Cutter"];
type Constant = Schemas["Constant"];

const w = 700;
const h = 420;
const left = 56;
const bottom = 44;
const top = 16;
const right = 14;

const signs: Record<Cutter["body"], string> = {
  paper: "M-9 -9H5L9 -5V9H-9Z",
  film: "M0 -10A10 10 0 1 1 0 10A10 10 0 1 1 0 -10Z",
  foam: "M0 -10A10 10 0 1 1 0 10A10 10 0 1 1 0 -10ZM0 -4A4 4 0 1 0 0 4A4 4 0 1 0 0 -4Z",
  pad: "M-10 8V0A10 9 0 0 1 10 0V8Z",
};

const sources: Record<Constant["source"], string> = { standard: "standard", physics: "measured", judgement: "judgement", price: "shop" };

/** Everything that cuts: how much, what scratch it leaves, what may come before it. */
export default function ShelfPage() {
  const [params, setParams] = useSearchParams();
  const pick = params.get("pick") ?? "3000@foam-disc";
  const query = useShelf(pick);
  const changed = useChanged();
  const [fault, setFault] = useState("");
  const change = useMutation({
    mutationFn: api.setConstant,
    onSuccess: () => setFault(""),
    onError: (e) => setFault(e.message),
    onSettled: () => changed("house"),
  });
  const shelf = query.data;
  const show = (key: string) => setParams({ pick: key }, { replace: true });
  const step = (by: number) => {
    const all = shelf?.cutters ?? [];
    const next = all[(all.findIndex((c) => c.key === pick) + by + all.length) % all.length];
    if (next) show(next.key);
  };
  const stock = useStock().data;
  const people = usePeople().data?.people.map((p) => p.name) ?? [];
  const [moving, setMoving] = useState(false);
  const item = pick.split("@")[0] ?? "";
  const pickItem = (key: string) => {
    const c = shelf?.cutters.find((o) => o.key.split("@")[0] === key);
    if (c) show(c.key);
  };
  useKeys({ g: () => setMoving(true), ArrowRight: () => step(1), ArrowDown: () => step(1), ArrowLeft: () => step(-1), ArrowUp: () => step(-1) }, !moving);
  const at = shelf?.cutters.find((c) => c.key === pick);
  return (
    <Page
      title="Shelf"
      sub={shelf ? `${shelf.cutters.filter((c) => c.have).length} things to cut with` : ""}
      home="/"
      who="the shop"
      middle={
        <Box sx={{ paddingTop: 15 }}>
          <Box className="t" sx={{ fontSize: 20, lineHeight: "23px" }}>
            {stock?.text ?? "What cuts, and what it leaves"}
          </Box>
          <div className="s">{shelf ? (shelf.changed > 0 ? `${count(shelf.changed, "value")} not the usual` : "all values are the usual ones") : ""}</div>
        </Box>
      }
      query={query}
      keys={[
        { keys: "arrows", does: "from thing to thing" },
        { keys: "G", does: "goods in, used, counted" },
      ]}
    >
      {shelf ? (
        <ShelfFrame>
          <section aria-label="Cut and scratch">
            <h2 className="heading t">
              Cut of a pass, µm <span className="s">pads: four crossing passes, on paint of medium hardness</span>
            </h2>
            <Map shelf={shelf} pick={pick} show={show} />
            <p className="s">Filled: on the shelf. White: not on it. Marked blue: may come before the one in hand, which clears what they leave.</p>
            {stock ? <StockTable stock={stock} picked={item} pick={pickItem} act={() => setMoving(true)} /> : null}
            <Box component="h2" className="heading t" sx={{ marginTop: 18 }}>
              Rules of the work <span className="s">each is a default with its source</span>
            </Box>
            <Constants list={shelf.constants.filter((c) => c.thing === "law")} change={(key, value) => change.mutate(value === undefined ? { key } : { key, value })} />
          </section>
          <section aria-label="The thing in hand">
            {at ? (
              <>
                <Box component="h2" className="t" sx={{ fontSize: 24, lineHeight: "30px" }}>
                  {at.title} <span className="s">{at.what}, {at.tool}</span>
                </Box>
                <Box sx={{ display: "flex", gap: 28, padding: "8px 0" }}>
                  <div>
                    <div className="lab">cuts, a pass</div>
                    <Num e={at.cut_um} size={26} />
                  </div>
                  <div>
                    <div className="lab">leaves a scratch of</div>
                    <Box component="span" className="n" sx={{ fontSize: 26, lineHeight: 1.05 }}>
                      {at.scratch_um.toFixed(2)}
                      <span className="u">µm</span>
                    </Box>
                  </div>
                </Box>
                <p className="s">By the table below; readings after passes in Level correct it for hands, paint and grit.</p>
                <Box component="h3" className="heading t" sx={{ marginTop: 12 }}>
                  What may come before it
                </Box>
                <Befores shelf={shelf} show={show} />
                <Box component="h3" className="heading t" sx={{ marginTop: 14 }}>
                  Its constants
                </Box>
                <Constants list={shelf.constants.filter((c) => belongs(c, at))} change={(key, value) => change.mutate(value === undefined ? { key } : { key, value })} />
              </>
            ) : null}
            {fault ? <Notice text={fault} /> : null}
            {shelf.changed > 0 ? (
              <Button variant="quiet" sx={{ marginTop: 14 }} onClick={() => change.mutate({ key: "all" })}>
                Set all {shelf.changed} back to the usual
              </Button>
            ) : null}
          </section>
          {moving && stock ? <StockAsk stock={stock} first={item} people={people} close={() => setMoving(false)} /> : null}
        </ShelfFrame>
      ) : null}
    </Page>
  );
}

/** Whether a constant is of the sheet, the backing or the compound of a cutter. */
function belongs(c: Constant, at: Cutter): boolean {
  const [item = "", backing = ""] = at.key.split("@");
  return c.thing === `abrasive.${item}` || c.thing === `backing.${backing}` || (backing === "" && c.thing === `compound.${item}`);
}

/** Whether the name of a thing does not fit to the right of its sign. */
function wide(c: Cutter, x: (v: number) => number): boolean {
  return x(c.scratch_um) + 22 + 7.4 * (c.title.length + c.what.length + 2) > w - right;
}

function Map({ shelf, pick, show }: { shelf: Shelf; pick: string; show: (key: string) => void }) {
  const scratches = shelf.cutters.map((c) => c.scratch_um);
  const cuts = shelf.cutters.map((c) => c.cut_um.mean);
  const rough = Math.max(...scratches) * 1.15;
  const fine = Math.min(...scratches) / 1.15;
  const least = Math.min(...cuts) / 1.25;
  const most = Math.max(...cuts) * 1.25;
  const x = scaleLog([rough, fine], [left, w - right]);
  const y = scaleLog([least, most], [h - bottom, top]);
  const marks = (list: number[], lo: number, hi: number) => list.filter((v) => v >= lo && v <= hi);
  const sorted = [...shelf.cutters].sort((a, b) => Number(a.key === pick) - Number(b.key === pick) || Number(a.may) - Number(b.may));
  return (
    <svg viewBox={`0 0 ${w} ${h}`} width="100%" role="group" aria-label="Cut against scratch, both on logarithmic scales">
      <rect x={left} y={top} width={w - left - right} height={h - top - bottom} fill="var(--sheet)" />
      {marks([0.05, 0.1, 0.2, 0.5, 1, 2], least, most).map((v) => (
        <g key={v}>
          <path d={`M${left} ${y(v)}H${w - right}`} stroke="var(--line)" />
          <text className="n" x={left - 8} y={y(v) + 4} fontSize="12.5" textAnchor="end">
            {v}
          </text>
        </g>
      ))}
      {marks([0.02, 0.05, 0.1, 0.2, 0.5, 1, 2], fine, rough).map((v) => (
        <text key={v} className="n" x={x(v)} y={h - bottom + 18} fontSize="12.5" textAnchor="middle">
          {v}
        </text>
      ))}
      <path d={`M${left} ${top}V${h - bottom}H${w - right}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <text x={left} y={h - 6} fontSize="12.5" style={{ fill: "var(--ink2)" }}>
        rough
      </text>
      <text x={w - right} y={h - 6} fontSize="12.5" textAnchor="end" style={{ fill: "var(--ink2)" }}>
        scratch left, µm deep: smoother this way
      </text>
      {sorted.map((c) => {
        const on = c.key === pick;
        const name = `${c.title}, ${c.what}`;
        return (
          <g
            key={c.key}
            transform={`translate(${x(c.scratch_um).toFixed(1)} ${y(c.cut_um.mean).toFixed(1)})`}
            role="button"
            tabIndex={on ? 0 : -1}
            aria-pressed={on}
            aria-label={`${name}: cuts ${c.cut_um.mean.toFixed(2)} µm, leaves ${c.scratch_um.toFixed(2)}`}
            onClick={() => show(c.key)}
            style={{ cursor: "pointer" }}
          >
            <title>{name}</title>
            {on ? <circle r="17" fill="var(--tape)" stroke="var(--ink)" strokeWidth="1.5" /> : null}
            <path d={signs[c.body]} fill={c.have ? (c.may ? "var(--open)" : "var(--ink2)") : "var(--sheet)"} stroke="var(--ink)" strokeWidth="1.5" fillRule="evenodd" />
            {on ? (
              <text className="halo" x={wide(c, x) ? -22 : 22} y="5" fontSize="13.5" fontWeight="650" textAnchor={wide(c, x) ? "end" : "start"} style={{ stroke: "var(--sheet)" }}>
                {c.title}, {c.what}
              </text>
            ) : null}
          </g>
        );
      })}
    </svg>
  );
}

function Befores({ shelf, show }: { shelf: Shelf; show: (key: string) => void }) {
  if (shelf.befores.length === 0) return <p className="s">Nothing on the shelf is rougher and near enough: it begins a sequence, or stands alone.</p>;
  return (
    <Scroll label="What may come before it" sx={{ maxHeight: 262 }}>
    <Table className="befores">
      <TableHead>
        <TableRow>
          <TableCell />
          <TableCell align="right">its scratch</TableCell>
          <TableCell align="right">passes</TableCell>
          <TableCell align="right">film, µm</TableCell>
          <TableCell />
        </TableRow>
      </TableHead>
      <TableBody>
        {shelf.befores.map((b) => (
          <TableRow key={b.key}>
            <TableCell>
              <Button variant="link" sx={{ textDecoration: "none" }} onClick={() => show(b.key)}>
                {b.title}
              </Button>{" "}
              <span className="s">{b.what}</span>
            </TableCell>
            <TableCell align="right" className="n">{b.scratch_um.toFixed(2)}</TableCell>
            <TableCell align="right" className="n">{b.passes > 0 ? b.passes : "none"}</TableCell>
            <TableCell align="right" className="n">{b.passes > 0 ? b.film_um.toFixed(1) : ""}</TableCell>
            <TableCell className="xs">{b.text}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
    </Scroll>
  );
}

/** The constants of a thing: each with its unit and source, to be changed and set back. */
function Constants({ list, change }: { list: Constant[]; change: (key: string, value?: number) => void }) {
  const u = useUnits();
  return (
    <Table className="constants">
      <TableBody>
        {list.map((c) => (
          <TableRow key={c.key}>
            <TableCell>
              {c.name} <span className="xs">{c.thing.startsWith("backing") ? c.thing_name : ""}</span>
            </TableCell>
            <TableCell align="right" sx={{ paddingRight: 6, width: 112 }}>
              <Value c={c} keep={(v) => change(c.key, v)} />
            </TableCell>
            <TableCell className="xs">{c.unit.replaceAll("money", u.money)}</TableCell>
            <TableCell className="xs">{sources[c.source]}</TableCell>
            <TableCell align="right" className="xs" sx={{ paddingRight: 0 }}>
              {c.value !== c.usual ? (
                <Button variant="link" onClick={() => change(c.key)}>
                  back to {c.unit === "" && c.name === "on the shelf" ? (c.usual ? "yes" : "no") : Number(c.usual.toPrecision(4))}
                </Button>
              ) : null}
            </TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

function Value({ c, keep }: { c: Constant; keep: (v: number) => void }) {
  if (c.name === "on the shelf") return <Tick checked={c.value === 1} label={`${c.thing_name} on the shelf`} set={(on) => keep(on ? 1 : 0)} />;
  return <NumberField silent label={`${c.thing === "law" ? "" : `${c.thing_name}, `}${c.name}`} unit="" value={c.value} show={(v) => String(Number(v.toPrecision(4)))} keep={keep} />;
}
