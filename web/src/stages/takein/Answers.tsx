import { useQuery } from "@tanstack/react-query";
import { api, type PanelFacts, type Schemas } from "../../api/client";
import { Choice, FilmField, NumberField } from "../../ui/Fields";
import { StateTab } from "../../drawing/StateTab";
import { um, unitName } from "../../app/format";
import { aims, cures, layers, origins, pasts, substrates } from "./draft";

function options<T extends string>(words: Record<T, string>): [T, string][] {
  return Object.entries(words) as [T, string][];
}

/** A date-time field's text for a time, in the clock of this place. */
function local(at: string | undefined): string {
  if (!at) return "";
  const d = new Date(at);
  return new Date(d.getTime() - d.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
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
  const guess = useQuery({ queryKey: ["guess", colour, facts], queryFn: () => api.guess(colour, facts), enabled: facts.origin !== undefined, placeholderData: (old) => old, retry: false });
  const past = facts.past ?? [];
  return (
    <div className="answers">
      <Choice label="finish" value={facts.origin ?? ""} options={options(origins)} set={(origin) => set(origin === "factory" ? { origin, coats: 0 } : { origin })} />
      <Choice label="layers" value={facts.layers ?? ""} options={options(layers)} set={(v) => set({ layers: v })} />
      {facts.origin === "factory" || facts.layers === "single" ? null : (
        <>
          <Choice label="coats of clear" value={facts.coats === undefined ? "" : String(facts.coats)} options={coatChoices} set={(v) => set({ coats: Number(v) })} />
          <div className="nums three">
            <FilmField label="dry a coat" value={facts.dry_um ?? 0} keep={(dry_um) => set({ dry_um })} />
            <FilmField label="or wet a coat" value={facts.wet_um ?? 0} keep={(wet_um) => set({ wet_um })} />
            <NumberField label="solids" unit="%" value={Math.round(100 * (facts.solids ?? 0))} keep={(v) => set({ solids: v / 100 })} />
          </div>
          <div className="sprayed">
            <label>
              <span className="lab">sprayed</span>
              <input type="datetime-local" className="plain" value={local(facts.sprayed_at)} onChange={(e) => (e.target.value ? set({ sprayed_at: new Date(e.target.value).toISOString() }) : undefined)} />
            </label>
            <Choice label="dried" value={facts.cure ?? ""} options={options(cures)} set={(cure) => set({ cure })} />
          </div>
        </>
      )}
      <div role="group" aria-label="before this">
        <div className="lab">before this</div>
        <div className="one">
          {options(pasts).map(([v, text]) => (
            <button key={v} type="button" aria-pressed={past.includes(v)} onClick={() => set({ past: past.includes(v) ? past.filter((p) => p !== v) : [...past, v] })}>
              {past.includes(v) ? "✓ " : ""}
              {text}
            </button>
          ))}
        </div>
      </div>
      <Choice label="made of" value={facts.substrate ?? ""} options={options(substrates)} set={(substrate) => set({ substrate })} />
      <Choice label="aim" value={facts.aim ?? ""} options={options(aims)} set={(aim) => set({ aim })} />
      {guess.data ? (
        <div className="guess">
          <span className="n" style={{ fontSize: 27, lineHeight: "30px" }}>
            {um(guess.data.clear_um.mean)}
            <span className="pm"> ± {um(guess.data.clear_um.sd)}</span>
            <span className="u">{unitName()}</span>
          </span>
          <span className="s" style={{ flex: 1 }}>
            clear, {guess.data.from.replace(/^a guess: /, "a guess: ")}
          </span>
          <StateTab state={guess.data.state} />
          <p className="s" style={{ gridColumn: "1/-1" }}>
            {guess.data.text}
          </p>
        </div>
      ) : null}
      {guess.error ? <p className="s">{guess.error.message}</p> : null}
    </div>
  );
}
