import { type Schemas } from "../../api/client";
import { patternOf } from "../../drawing/Patterns";
import { StateTab } from "../../drawing/StateTab";
import { useUnits } from "../../app/units";

const wide = 240;

/** The clear of the panel that decides: what must stay, what stays over it, what goes. */
export function ClearBar({ clear, state }: { clear: Schemas["OfferClear"]; state: Schemas["State"] }) {
  const u = useUnits();
  const per = wide / Math.max(clear.before_um.mean, clear.floor_um, 1);
  const floor = clear.floor_um * per;
  const stays = Math.max(0, clear.stays_um.mean * per);
  const said = `Clear on the ${clear.panel}: ${u.um(clear.before_um.mean)} now, ${u.um(clear.stays_um.mean)} ± ${u.um(clear.stays_um.sd)} ${u.name} stays; ${u.um(clear.floor_um)} must stay.`;
  return (
    <div className="overclear" title={said}>
      <div className="ends">
        <span className="lab">clear that stays, {u.name}</span>
        <StateTab state={state} />
      </div>
      <svg viewBox={`0 0 ${wide} 46`} role="img" aria-label={said} style={{ width: "100%", display: "block" }}>
        <rect x="0.5" y="4" width={Math.max(1, clear.before_um.mean * per - 1)} height="20" fill="var(--sheet)" stroke="var(--ink)" />
        <rect x="0.5" y="4" width={Math.max(0, stays - 1)} height="20" fill={patternOf[state]} stroke="var(--ink)" />
        <rect x="0.5" y="4" width={Math.max(0, Math.min(floor, stays) - 1)} height="20" fill="var(--ink)" />
        {Math.min(floor, stays) > 74 ? (
          <text x="7" y="18" fontSize="12" fontWeight="600" style={{ fill: "var(--primer)" }}>
            must stay
          </text>
        ) : null}
        <line x1={floor} x2={floor} y1="0" y2="29" stroke="var(--ink)" strokeWidth="2.5" />
        <text className="n" x={floor} y="43" fontSize="13" textAnchor="end" fill="var(--ink)">
          {u.um(clear.floor_um)}
        </text>
        <text className="n" x={stays < floor ? Math.min(stays, floor - 24) : Math.min(wide, Math.max(stays, floor + 22))} y="43" fontSize="13" textAnchor="end" fill="var(--ink)">
          {u.um(clear.stays_um.mean)}
        </text>
      </svg>
    </div>
  );
}
