import { Refusal } from "../api/client";
import { count } from "../app/format";
import { Notice } from "../ui/Notice";
import { Offers } from "./Offers";
import type { KeptReading, useTaps } from "./taps";

/** Readings that wait on this device, and what the bench server asks about one of them. */
export function KeptReadings({ taps }: { taps: ReturnType<typeof useTaps> }) {
  const asks = taps.readings.find((r): r is KeptReading & { refused: NonNullable<KeptReading["refused"]> } => r.refused !== undefined);
  if (asks) {
    const drop = () => void taps.drop(asks.id);
    if ((asks.refused.offers ?? []).length > 0) {
      return <Offers error={new Refusal(asks.refused)} leave={drop} take={(o, sure) => void taps.answer(asks, { film: o.film, unit: o.unit, ...(sure ? { sure } : {}) })} />;
    }
    return (
      <Notice
        text={`The reading of ${shown(asks)} that was kept here was not taken. ${asks.refused.detail}`}
        action={
          <button type="button" className="key q" onClick={drop}>
            Leave it out
          </button>
        }
      />
    );
  }
  if (taps.readings.length === 0 || !taps.away) return null;
  return <Notice text={`The bench server does not answer. ${count(taps.readings.length, "reading")} kept on this device: ${taps.readings.map(shown).join(", ")}. They count once it has them; until then the figures are those of before.`} />;
}

const shown = (r: KeptReading) => `${r.film} ${r.unit === "mil" ? "mil" : "µm"}`;
