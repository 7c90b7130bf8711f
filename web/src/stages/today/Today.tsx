import { Box, Button } from "@mui/material";
import { Link, useNavigate } from "react-router";
import { useCars, useShop } from "../../api/queries";
import { type CarSummary } from "../../api/client";
import { pathOf } from "../../drawing/geometry";
import { useKeys } from "../../app/keys";
import { Page } from "../../app/Page";
import { ScaledPatterns, scaledFill } from "../../drawing/ScaledPatterns";
import { StateTab } from "../../drawing/StateTab";
import { fading, wavePath } from "../../drawing/wave";
import { capital, count } from "../../app/format";
import { useUnits } from "../../app/units";

function Small({ car }: { car: CarSummary }) {
  const box = car.box;
  if (!box || !car.panels) return <Box component="span" sx={{ width: 150 }} />;
  return (
    <svg viewBox={`${box.x - 60} ${box.y - 60} ${box.w + 120} ${box.h + 120}`} width="140" height="92" aria-hidden="true" style={{ flex: "none" }}>
      <ScaledPatterns id={`${car.id}-`} scale={(box.w + 120) / 190} />
      {car.panels.map((p, i) => {
        const xs = p.outline.map((q) => q.x);
        const ys = p.outline.map((q) => q.y);
        const { x, y, turned } = p.placement;
        const turn = turned ? `translate(${x + Math.max(...xs)} ${y + Math.max(...ys)}) rotate(180)` : `translate(${x} ${y})`;
        return (
          <g key={i} transform={turn}>
            <path d={pathOf(p.outline)} fill={p.state ? scaledFill(`${car.id}-`, p.state) : "var(--sheet)"} stroke="var(--ink)" strokeWidth="1" vectorEffect="non-scaling-stroke" />
          </g>
        );
      })}
    </svg>
  );
}

function Line({ car, no, first }: { car: CarSummary; no: number; first: boolean }) {
  const to = `/panels/${encodeURIComponent(car.next.panel_id)}/${car.next.stage}`;
  return (
    <Box component="li" className="carline" sx={{ borderBottom: "1px solid var(--line)", padding: "5px 0", minHeight: 104 }}>
      <Link to={`/cars/${encodeURIComponent(car.id)}`} aria-label={`${car.name}, the whole car`}>
        <Small car={car} />
      </Link>
      <Box sx={{ width: 330, maxWidth: "100%" }}>
        <Box component="h2" className="t" sx={{ fontSize: 20, lineHeight: "26px" }}>
          <Box component={Link} to={`/cars/${encodeURIComponent(car.id)}`} sx={{ color: "inherit", textDecoration: "none" }}>
            {car.name}
          </Box>{" "}
          <Box component="span" className="s" sx={{ fontFamily: "Hanken Grotesk Variable" }}>
            {capital(car.next.stage)}
          </Box>
        </Box>
        <Button component={Link} to={to} variant={first ? "tape" : "key"} sx={{ justifyContent: "space-between", marginTop: 6, minHeight: 56 }}>
          <span>
            {car.next.action}
            <Box component="span" className="s sub" sx={{ display: "block", fontWeight: 450 }}>
              {car.next.panel_name}
            </Box>
          </span>
          <span>
            {car.painter} <span className="kc">{first ? "Enter" : no}</span>
          </span>
        </Button>
      </Box>
      <Box sx={{ flex: "1 1 240px", minWidth: 0 }}>
        {car.next.state ? <StateTab state={car.next.state} /> : <span className="s">not read yet</span>}
        {car.next.reason ? <Box component="p" className="s" sx={{ maxWidth: 520 }}>{car.next.reason}</Box> : null}
      </Box>
    </Box>
  );
}

/** The wave that lies down, across the empty bench. */
function LyingWave() {
  return (
    <svg viewBox="0 0 1232 32" width="100%" fill="none" aria-hidden="true">
      <path d={wavePath(0, 1232, 2, 16, 64, fading(13, 1100, 0.9))} stroke="var(--ink)" strokeWidth="2.5" />
    </svg>
  );
}

export default function Today() {
  const u = useUnits();
  const cars = useCars();
  const shop = useShop().data;
  const go = useNavigate();
  const list = cars.data ?? [];
  const open = (car: CarSummary | undefined) => {
    if (car) void go(`/panels/${encodeURIComponent(car.next.panel_id)}/${car.next.stage}`);
  };
  const keys: Record<string, () => void> = { c: () => void go("/take-in"), q: () => void go("/check"), s: () => void go("/shelf"), h: () => void go("/rules"), p: () => void go("/hands"), Enter: () => open(list[0]) };
  list.slice(0, 9).forEach((car, i) => (keys[String(i + 1)] = () => void go(`/cars/${encodeURIComponent(car.id)}`)));
  useKeys(keys);
  const day = u.day(new Date());
  return (
    <Page
      title="Wax Planus"
      sub=""
      home="/"
      who="the shop"
      middle={
        <Box sx={{ paddingTop: 15 }}>
          <Box className="t" sx={{ fontSize: 20, lineHeight: "23px" }}>
            Today, {day}
          </Box>
          <div className="s">{cars.data ? `${list.length === 0 ? "no cars in" : `${count(list.length, "car")} in, ${count(list.length, "next action")}`}` : "looking"}</div>
        </Box>
      }
      query={cars}
      keys={[
        { keys: "1–9", does: "open a car" },
        { keys: "Enter", does: "do the marked action" },
        { keys: "C", does: "take in a car" },
        { keys: "Q", does: "quick check: may I sand this?" },
        { keys: "S", does: "the shelf" },
        { keys: "H", does: "house rules" },
      ]}
    >
      {cars.data && list.length === 0 ? (
        <Box sx={{ padding: "26px 0", display: "grid", gap: 26, justifyItems: "start" }}>
          <Box component="h2" className="t" sx={{ fontSize: 44, lineHeight: "50px" }}>
            No cars in.
            <br />
            Take the first one in.
          </Box>
          <Box component="p" sx={{ fontSize: 17, lineHeight: "24px", color: "var(--ink2)" }}>
            Name it and choose its body. Then put the probe on the panel you want to level.
          </Box>
          <LyingWave />
          <Box sx={{ display: "flex", gap: 12, flexWrap: "wrap" }}>
            <Button variant="tape" sx={{ minHeight: 56, minWidth: 190, fontSize: 17 }} onClick={() => void go("/take-in")}>
              Take in <span className="kc">C</span>
            </Button>
            <Button sx={{ minHeight: 56, fontSize: 17 }} onClick={() => void go("/check")}>
              Quick check: may I sand this? <span className="kc">Q</span>
            </Button>
          </Box>
          <p className="s">
            {shop?.rules_text}
            <br />
            Everything stays on this machine. It asks nobody on the internet for anything.
          </p>
        </Box>
      ) : null}
      {list.length > 0 ? (
        <>
          <Box sx={{ display: "flex", gap: 24, padding: "14px 0 10px" }}>
            <StateTab state="open" />
            <StateTab state="tight" />
            <StateTab state="shut" />
            <span className="s">the worst section of each panel; white is not read</span>
          </Box>
          <Box component="ul" sx={{ listStyle: "none", margin: 0, padding: 0, borderTop: "1.5px solid var(--ink)" }}>
            {list.map((car, i) => (
              <Line key={car.id} car={car} no={i + 1} first={i === 0} />
            ))}
          </Box>
          <Box className="keys" sx={{ padding: "22px 0" }}>
            <Button variant="hint" onClick={() => void go("/take-in")}>
              <span className="kc">C</span> take in a car
            </Button>
            <Button variant="hint" onClick={() => void go("/check")}>
              <span className="kc">Q</span> quick check: may I sand this?
            </Button>
            <Button variant="hint" onClick={() => void go("/shelf")}>
              <span className="kc">S</span> shelf
            </Button>
            <Button variant="hint" onClick={() => void go("/rules")}>
              <span className="kc">H</span> house rules
            </Button>
            <Button variant="hint" onClick={() => void go("/hands")}>
              <span className="kc">P</span> hands
            </Button>
          </Box>
        </>
      ) : null}
    </Page>
  );
}
