import { useUnits } from "../../app/units";
import { Box, Button } from "@mui/material";
import type { Body } from "../../api/client";
import { FlatLay } from "../../drawing/FlatLay";
import { Field } from "../../ui/Field";
import { NumberField } from "../../ui/NumberField";
import type { Keys } from "../../app/keys";
import { groupsOf, inWords, type Facts } from "./draft";
import type { SidePanel } from "./hand";

/** The fills that tell groups apart; the largest is plain, what is in hand is tape. */
const fills = ["var(--sheet)", "url(#gLines)", "url(#gDots)", "url(#gSteep)", "url(#gGrid)"];

function GroupPatterns({ scale }: { scale: number }) {
  return (
    <svg width="0" height="0" style={{ position: "absolute" }} aria-hidden="true">
      <defs>
        {["", "k"].map((k) => {
          const z = k ? 1 : scale;
          return (
            <g key={k}>
              <pattern id={`gLines${k}`} width={7 * z} height={7 * z} patternUnits="userSpaceOnUse">
                <rect width={7 * z} height={7 * z} fill="var(--sheet)" />
                <rect width={7 * z} height={1.2 * z} fill="var(--ink)" />
              </pattern>
              <pattern id={`gDots${k}`} width={7 * z} height={7 * z} patternUnits="userSpaceOnUse">
                <rect width={7 * z} height={7 * z} fill="var(--sheet)" />
                <circle cx={2 * z} cy={2 * z} r={1.1 * z} fill="var(--ink)" />
              </pattern>
              <pattern id={`gSteep${k}`} width={8 * z} height={8 * z} patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
                <rect width={8 * z} height={8 * z} fill="var(--sheet)" />
                <rect width={8 * z} height={1.2 * z} fill="var(--ink)" />
              </pattern>
              <pattern id={`gGrid${k}`} width={9 * z} height={9 * z} patternUnits="userSpaceOnUse">
                <rect width={9 * z} height={9 * z} fill="var(--sheet)" />
                <path d={`M0 0H${9 * z}M0 0V${9 * z}`} stroke="var(--ink)" strokeWidth={z} />
              </pattern>
              <pattern id={`gUnsaid${k}`} width={11 * z} height={11 * z} patternUnits="userSpaceOnUse">
                <rect width={11 * z} height={11 * z} fill="var(--primer)" />
                <circle cx={2.6 * z} cy={2.6 * z} r={1.1 * z} fill="var(--lineStrong)" />
              </pattern>
            </g>
          );
        })}
      </defs>
    </svg>
  );
}

interface SheetProps {
  label: string;
  shape: Pick<Body, "box" | "scenery"> & { panels: SidePanel[] };
  facts: Facts;
  hand: string[];
  setHand: (keys: string[]) => void;
}

/** The panels, many in hand at once, and the groups that were said alike. */
export function Sheet({ label, shape, facts, hand, setHand }: SheetProps) {
  const keys = shape.panels.map((p) => p.key);
  const groups = groupsOf(facts, keys);
  const fillOf = (key: string, small: boolean) => {
    const i = groups.findIndex((g) => g.keys.includes(key));
    if (Object.keys(groups[i]?.facts ?? {}).length === 0) return small ? "url(#gUnsaidk)" : "url(#gUnsaid)";
    const fill = fills[i % fills.length] ?? "var(--sheet)";
    return small ? fill.replace(")", "k)").replace("var(--sheetk)", "var(--sheet)") : fill;
  };
  const nameOf = (key: string) => shape.panels.find((p) => p.key === key)?.name.replace(" and roof rail", "") ?? key;
  const touch = (key: string) => setHand(hand.includes(key) ? hand.filter((k) => k !== key) : [...hand, key]);
  return (
    <>
      <GroupPatterns scale={(shape.box.w + 120) / 560} />
      <FlatLay
        label={label}
        box={shape.box}
        scenery={shape.scenery}
        panels={shape.panels}
        height={392}
        choose={(p) => touch(p.key)}
        chosen={(p) => hand.includes(p.key)}
        spoken={(p) => `${p.name}: ${inWords(facts[p.key] ?? {})}`}
        fill={(p) => (hand.includes(p.key) ? "var(--tape)" : fillOf(p.key, false))}
      />
      <ul className="groups">
        {groups.map((g) => {
          const inHand = g.keys.every((k) => hand.includes(k));
          const first = g.keys[0] ?? "";
          return (
            <li key={g.keys.join()}>
              <Button variant="row" aria-pressed={inHand} onClick={() => setHand(inHand ? [] : g.keys)}>
                <svg width="32" height="20" aria-hidden="true">
                  <rect x=".75" y=".75" width="30.5" height="18.5" fill={inHand ? "var(--tape)" : fillOf(first, true)} stroke="var(--ink)" strokeWidth="1.5" />
                </svg>
                <Box component="span" className="n" sx={{ fontSize: 17, minWidth: 26, textAlign: "right" }}>
                  {g.keys.length}
                </Box>
                <span className="clip">
                  <span className="b">{inWords(g.facts)}</span>: {g.keys.length > 6 ? `${g.keys.slice(0, 4).map(nameOf).join(", ")} and ${g.keys.length - 4} more` : g.keys.map(nameOf).join(", ")}
                </span>
              </Button>
            </li>
          );
        })}
      </ul>
    </>
  );
}

export function HandHead({ hand }: { hand: string[] }) {
  return (
    <Box component="h2" className="t heading" sx={{ display: "flex", alignItems: "center", gap: 12 }}>
      For these <span className="badge n">{hand.length}</span>
    </Box>
  );
}

export function SheetHead({ text, keys }: { text: string; keys: Keys }) {
  return (
    <Box component="h2" className="t heading" sx={{ display: "flex", justifyContent: "space-between", alignItems: "baseline", gap: 12 }}>
      {text}
      <Box component="span" className="keys" sx={{ fontFamily: "Hanken Grotesk Variable", fontWeight: 400 }}>
        <Button variant="hint" onClick={keys["s"]}>
          <span className="kc">S</span> whole side
        </Button>
        <Button variant="hint" onClick={keys["a"]}>
          <span className="kc">A</span> all left over
        </Button>
      </Box>
    </Box>
  );
}

interface WordsProps {
  words: string;
  cost: number;
  hours: number;
  set: (change: { words?: string; cost?: number; hours?: number }) => void;
}

export function OwnerWords({ words, cost, hours, set }: WordsProps) {
  const u = useUnits();
  return (
    <div className="ownerwords">
      <Field label="in the owner's words" multiline minRows={2} maxRows={4} most={1000} value={words} onChange={(e) => set({ words: e.target.value })} placeholder="It looks patchy in the sun." />
      <NumberField label="may cost up to" unit={u.money} value={cost} keep={(v) => set({ cost: v })} />
      <NumberField label="may take" unit="h" value={hours} keep={(v) => set({ hours: v })} />
    </div>
  );
}
