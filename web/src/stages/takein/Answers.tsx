import { Box, FormLabel, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useGuess, useWorkshop } from "../../api/queries";
import { When } from "../../ui/When";
import { type PanelFacts, type Schemas } from "../../api/client";
import { Choice } from "../../ui/Choice";
import { Pick } from "../../ui/Field";
import { FilmField, NumberField } from "../../ui/NumberField";
import { StateTab } from "../../drawing/StateTab";
import { useUnits } from "../../app/units";
import { aims, cures, layers, origins, pasts, unders, substrates } from "./draft";

function options<T extends string>(words: Record<T, string>): [T, string][] {
  return Object.entries(words) as [T, string][];
}

const coatChoices: [string, string][] = [
  ["1", "1"],
  ["2", "2"],
  ["3", "3"],
  ["4", "4"],
  ["0", "not known"],
];

/** What is said of the panels in hand. */
export function Answers({ facts, colour, set }: { facts: PanelFacts; colour: Schemas["Colour"]; set: (change: PanelFacts) => void }) {
  const u = useUnits();
  const guess = useGuess(colour, facts);
  const past = facts.past ?? [];
  const paints = useWorkshop().data?.paints ?? [];
  const refinished = facts.origin !== "factory" && facts.layers !== "single";
  return (
    <div className="answers">
      <Choice label="aim" value={facts.aim ?? ""} options={options(aims)} set={(aim) => set({ aim })} />
      <Choice label="finish" value={facts.origin ?? ""} options={options(origins)} set={(origin) => set(origin === "factory" ? { origin, coats: 0 } : { origin })} />
      <Choice label="layers" value={facts.layers ?? ""} options={options(layers)} set={(v) => set({ layers: v })} />
      {refinished ? (
        <>
          <Choice label="coats of clear" value={facts.coats === undefined ? "" : String(facts.coats)} options={coatChoices} set={(v) => set({ coats: Number(v) })} />
          <Choice label="under the new paint" value={facts.under ?? ""} options={options(unders)} set={(under) => set({ under })} />
        </>
      ) : null}
      {guess.data ? (
        <div className="guess">
          <Box component="span" className="n" sx={{ fontSize: 27, lineHeight: "30px" }}>
            {u.um(guess.data.clear_um.mean)}
            <span className="pm"> ± {u.um(guess.data.clear_um.sd)}</span>
            <span className="u">{u.name}</span>
          </Box>
          <Box component="span" className="s" sx={{ flex: 1 }}>
            clear, {guess.data.from.replace(/^a guess: /, "a guess: ")}
          </Box>
          <StateTab state={guess.data.state} />
          <Box component="p" className="s" sx={{ gridColumn: "1/-1" }}>
            {guess.data.text}
          </Box>
        </div>
      ) : null}
      {guess.error ? <p className="s">{guess.error.message}</p> : null}
      {refinished ? (
        <>
          {paints.length > 0 ? (
            <Pick label="sprayed with" value={facts.paint ?? ""} set={(paint) => set({ paint, dry_um: paints.find((p) => p.name === paint)?.coat_um ?? facts.dry_um ?? 0 })}>
              <option value="">a paint without a sheet here</option>
              {paints.map((p) => (
                <option key={p.name} value={p.name}>
                  {p.name}
                </option>
              ))}
            </Pick>
          ) : null}
          <div className="nums three">
            <FilmField label="dry a coat" value={facts.dry_um ?? 0} keep={(dry_um) => set({ dry_um })} />
            <FilmField label="or wet a coat" value={facts.wet_um ?? 0} keep={(wet_um) => set({ wet_um })} />
            <NumberField label="solids" unit="%" value={Math.round(100 * (facts.solids ?? 0))} keep={(v) => set({ solids: v / 100 })} />
          </div>
          <div className="sprayed">
            <When label="sprayed" value={facts.sprayed_at} set={(sprayed_at) => set({ sprayed_at })} />
            <Choice label="dried" value={facts.cure ?? ""} options={options(cures)} set={(cure) => set({ cure })} />
          </div>
        </>
      ) : null}
      {facts.origin === "factory" ? <When label="car built, as far as known" value={facts.sprayed_at} set={(sprayed_at) => set({ sprayed_at })} /> : null}
      <div>
        <FormLabel component="div" id="past">
          before this
        </FormLabel>
        <ToggleButtonGroup aria-labelledby="past" value={past} onChange={(_, v: typeof past) => set({ past: v })}>
          {options(pasts).map(([v, text]) => (
            <ToggleButton key={v} value={v}>
              {past.includes(v) ? "✓ " : ""}
              {text}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </div>
      <Choice label="made of" value={facts.substrate ?? ""} options={options(substrates)} set={(substrate) => set({ substrate })} />
    </div>
  );
}
