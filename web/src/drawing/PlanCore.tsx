import type { Schemas } from "../api/client";
import type { Units } from "../app/units";

/** The clear at the thinnest place, lying: what each step takes, what must stay. */
export function PlanCore({ u, offer }: { u: Units; offer: Schemas["Offer"] }) {
  const w = 400;
  const h = 148;
  const right = 8;
  const y = 34;
  const tall = 48;
  const most = Math.max(offer.clear_um.mean + offer.clear_um.sd, offer.floor_um + 4);
  const x = (um: number) => w - right - ((w - 2 * right) * um) / most;
  const clear = x(offer.clear_um.mean);
  const floor = x(offer.floor_um);
  const left = offer.ends_um.at(-1) ?? offer.clear_um.mean;
  const spentX = x(Math.max(left, 0));
  const doubt = x(Math.max(left - offer.clear_um.sd, 0));
  return (
    <svg viewBox={`0 0 ${w} ${h}`} width="100%" style={{ maxHeight: 200 }} role="img" aria-label={`Clear at the thinnest place ${u.plusMinus(offer.clear_um)} ${u.name}: the steps take ${u.um(offer.film_um.mean)}, the floor is ${u.um(offer.floor_um)}`}>
      <text x={right} y="14" fontSize="13" fontWeight="650">
        Clear at the thinnest place, {u.name}
      </text>
      <text className="n" x={w - right} y="15" fontSize="15" textAnchor="end">
        {u.plusMinus(offer.clear_um)}
      </text>
      <rect x={clear} y={y} width={Math.max(w - right - clear, 0)} height={tall} fill="var(--open)" />
      <rect x={spentX} y={y} width={Math.max(doubt - spentX, 0)} height={tall} fill="url(#pDoubt)" />
      <rect x={Math.max(floor, clear)} y={y} width={w - right - Math.max(floor, clear)} height={tall} fill="var(--ink)" />
      <rect x={clear} y={y} width={Math.max(spentX - clear, 0)} height={tall} fill="url(#pSpend)" />
      {offer.ends_um.map((end, i) => (
        <path key={i} d={`M${x(Math.max(end, 0))} ${y}V${y + tall}`} stroke="var(--ink)" strokeWidth="1" />
      ))}
      <rect x={clear} y={y} width={Math.max(w - right - clear, 0)} height={tall} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <path d={`M${floor} ${y - 8}V${y + tall + 8}`} stroke="var(--ink)" strokeWidth="3" />
      <text x={(floor + w - right) / 2} y={y + tall / 2 + 5} textAnchor="middle" fontSize="15" fontWeight="650" style={{ fill: "var(--paper)" }}>
        stays
      </text>
      <text x={Math.min(floor, w - 90)} y={y + tall + 24} fontSize="12.5" fontWeight="650" textAnchor="middle">
        floor {u.um(offer.floor_um)}
      </text>
      <path d={`M${(clear + spentX) / 2} ${y + tall}V${y + tall + 30}`} stroke="var(--ink)" strokeWidth="1" />
      <text x={Math.max((clear + spentX) / 2, 44)} y={y + tall + 44} fontSize="12.5" textAnchor="middle" fontWeight="650">
        all steps {u.plusMinus(offer.film_um)}
      </text>
      <text x={w - right} y={y + tall + 44} fontSize="12" textAnchor="end" style={{ fill: "var(--ink2)" }}>
        dots: one doubt of the clear
      </text>
    </svg>
  );
}
