import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "react-router";
import { api, type CarSummary } from "../../api/client";
import { pathOf } from "../../drawing/geometry";
import { useKeys } from "../../app/keys";
import { Page } from "../../app/Page";
import { ScaledPatterns, scaledFill } from "../../drawing/ScaledPatterns";
import { StateTab } from "../../drawing/StateTab";
import { fading, wavePath } from "../../drawing/wave";
import { capital, count, um, unitName } from "../../app/format";

function Small({ car }: { car: CarSummary }) {
  const box = car.box;
  if (!box || !car.panels) return <span style={{ width: 150 }} />;
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
    <li className="carline" style={{ borderBottom: "1px solid var(--line)", padding: "5px 0", minHeight: 104 }}>
      <Link to={`/cars/${encodeURIComponent(car.id)}`} aria-label={`${car.name}, the whole car`}>
        <Small car={car} />
      </Link>
      <div style={{ width: 330, maxWidth: "100%" }}>
        <h2 className="t" style={{ fontSize: 20, lineHeight: "26px" }}>
          <Link to={`/cars/${encodeURIComponent(car.id)}`} style={{ color: "inherit", textDecoration: "none" }}>
            {car.name}
          </Link>{" "}
          <span className="s" style={{ fontFamily: "Hanken Grotesk Variable" }}>
            {capital(car.next.stage)}
          </span>
        </h2>
        <Link to={to} className={`key ${first ? "tape" : ""}`} style={{ justifyContent: "space-between", marginTop: 6, minHeight: 56 }}>
          <span>
            {car.next.action}
            <span className="s sub" style={{ display: "block", fontWeight: 450 }}>
              {car.next.panel_name}
            </span>
          </span>
          <span>
            {car.painter} <span className="kc">{first ? "Enter" : no}</span>
          </span>
        </Link>
      </div>
      <div style={{ flex: "1 1 240px", minWidth: 0 }}>
        {car.next.state ? <StateTab state={car.next.state} /> : <span className="s">not read yet</span>}
        {car.next.reason ? <p className="s" style={{ maxWidth: 520 }}>{car.next.reason}</p> : null}
      </div>
    </li>
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
  const cars = useQuery({ queryKey: ["cars"], queryFn: api.cars });
  const go = useNavigate();
  const list = cars.data ?? [];
  const open = (car: CarSummary | undefined) => {
    if (car) void go(`/panels/${encodeURIComponent(car.next.panel_id)}/${car.next.stage}`);
  };
  const keys: Record<string, () => void> = { c: () => void go("/take-in"), s: () => void go("/shelf"), h: () => void go("/rules"), p: () => void go("/hands"), Enter: () => open(list[0]) };
  list.slice(0, 9).forEach((car, i) => (keys[String(i + 1)] = () => void go(`/cars/${encodeURIComponent(car.id)}`)));
  useKeys(keys);
  const day = new Date().toLocaleDateString("en-GB", { weekday: "long" });
  return (
    <Page
      title="Wax Planus"
      sub=""
      home="/"
      who="the shop"
      middle={
        <div style={{ paddingTop: 15 }}>
          <div className="t" style={{ fontSize: 20, lineHeight: "23px" }}>
            Today, {day}
          </div>
          <div className="s">{cars.data ? `${list.length === 0 ? "no cars in" : `${count(list.length, "car")} in, ${count(list.length, "next action")}`}` : "looking"}</div>
        </div>
      }
      query={cars}
      keys={[
        { keys: "1–9", does: "open a car" },
        { keys: "Enter", does: "do the marked action" },
        { keys: "C", does: "take in a car" },
        { keys: "S", does: "the shelf" },
        { keys: "H", does: "house rules" },
      ]}
    >
      {cars.data && list.length === 0 ? (
        <div style={{ padding: "26px 0", display: "grid", gap: 26, justifyItems: "start" }}>
          <h2 className="t" style={{ fontSize: 44, lineHeight: "50px" }}>
            No cars in.
            <br />
            Take the first one in.
          </h2>
          <p style={{ fontSize: 17, lineHeight: "24px", color: "var(--ink2)" }}>
            Name it and choose its body. Then put the probe on the panel you want to level.
          </p>
          <LyingWave />
          <button type="button" className="key tape" style={{ minHeight: 56, minWidth: 190, fontSize: 17 }} onClick={() => void go("/take-in")}>
            Take in <span className="kc">C</span>
          </button>
          <p className="s">
            House rules are set to usual values: floor {um(40)} {unitName()} on fresh clear, {um(25)} on factory paint, risk 1 in 20.
            <br />
            Everything stays on this machine. It asks nobody on the internet for anything.
          </p>
        </div>
      ) : null}
      {list.length > 0 ? (
        <>
          <div style={{ display: "flex", gap: 24, padding: "14px 0 10px" }}>
            <StateTab state="open" />
            <StateTab state="tight" />
            <StateTab state="shut" />
            <span className="s">the worst section of each panel; white is not read</span>
          </div>
          <ul style={{ listStyle: "none", margin: 0, padding: 0, borderTop: "1.5px solid var(--ink)" }}>
            {list.map((car, i) => (
              <Line key={car.id} car={car} no={i + 1} first={i === 0} />
            ))}
          </ul>
          <div className="keys" style={{ padding: "22px 0" }}>
            <button type="button" onClick={() => void go("/take-in")}>
              <span className="kc">C</span> take in a car
            </button>
            <button type="button" onClick={() => void go("/shelf")}>
              <span className="kc">S</span> shelf
            </button>
            <button type="button" onClick={() => void go("/rules")}>
              <span className="kc">H</span> house rules
            </button>
            <button type="button" onClick={() => void go("/hands")}>
              <span className="kc">P</span> hands
            </button>
          </div>
        </>
      ) : null}
    </Page>
  );
}
