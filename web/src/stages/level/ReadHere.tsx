import { Dialog } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, newId, type Level, type Schemas } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { Offers } from "../../outbox/Offers";
import { unanswered } from "../../outbox/taps";
import { count, plusMinus, shopUnit, short, um, unitName } from "../../app/format";

/** A gauge reading taken while levelling: which spot, what it shows. Without a network it is kept for later. */
export function ReadHere({ level, later, close }: { level: Level; later: (body: Schemas["NewReading"]) => Promise<void>; close: () => void }) {
  const queries = useQueryClient();
  const [spot, setSpot] = useState(0);
  const [value, setValue] = useState("");
  const [id, setId] = useState(newId);
  const [own, setOwn] = useState("");
  const [said, setSaid] = useState("");
  const place = level.spots[spot];
  const keep = useMutation({
    mutationFn: async (what: { film: number; unit: "um" | "mil"; sure?: string }) => {
      const body: Schemas["NewReading"] = { id, x_mm: place?.x_mm ?? 0, y_mm: place?.y_mm ?? 0, phase: "total", ...what };
      try {
        return await api.addReading(level.panel.id, body);
      } catch (error) {
        if (!unanswered(error)) throw error;
        await later(body);
        return null;
      }
    },
    onSuccess: async (kept) => {
      setId(newId());
      setValue("");
      if (kept) await queries.invalidateQueries();
      if (spot + 1 < level.spots.length) {
        setSpot(spot + 1);
        setSaid(kept ? `${um(kept.film_um)} ${unitName()} kept. Passes left have been counted again; read the next spot or close.` : "Kept on this device until the bench server answers. Read the next spot or close.");
      } else close();
    },
  });
  const send = () => {
    const film = Number(value.replace(",", "."));
    if (value.trim() === "" || Number.isNaN(film)) {
      setOwn(`Type what the gauge shows in ${unitName()}, then Enter.`);
      return;
    }
    setOwn("");
    keep.mutate({ film, unit: shopUnit() });
  };
  return (
    <Dialog open onClose={close} aria-labelledby="readhere">
      <form
        style={{ padding: "24px 28px", width: 460, maxWidth: "100%", display: "grid", gap: 14 }}
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <h2 id="readhere" className="t" style={{ fontSize: 24, lineHeight: "28px" }}>
          Read the gauge
        </h2>
        <p className="s">Rinse and wipe dry first; the probe must not sit on slurry.</p>
        <div className="one" role="group" aria-label="Spot">
          {level.spots.map((p, i) => (
            <button key={`${p.x_mm}-${p.y_mm}`} type="button" aria-pressed={i === spot} style={{ height: 48 }} onClick={() => setSpot(i)}>
              spot {i + 1}
            </button>
          ))}
        </div>
        {place ? (
          <p className="s">
            At {short(place.x_mm)}, {short(place.y_mm)} mm. {place.total_um ? `The map had ${plusMinus(place.total_um)} ${unitName()} here before the passes.` : ""}
          </p>
        ) : (
          <p className="s">No place of this section is clear of edges and readings.</p>
        )}
        <div className="field">
          <input aria-label={`Film at spot ${spot + 1}, ${unitName()}`} inputMode="decimal" autoComplete="off" autoFocus value={value} onChange={(e) => setValue(e.target.value.replace(/[^0-9.,-]/g, "").slice(0, 8))} />
          <span className="s" style={{ fontSize: 17, paddingLeft: 8 }}>
            {unitName()}
          </span>
        </div>
        {own ? <Notice text={own} /> : keep.error ? <Offers error={keep.error} leave={() => keep.reset()} take={(o, sure) => keep.mutate({ film: o.film, unit: o.unit, ...(sure ? { sure } : {}) })} /> : said ? <p className="s" role="status">{said}</p> : null}
        <div style={{ display: "flex", gap: 10, justifyContent: "flex-end" }}>
          <button type="button" className="key q" style={{ minHeight: 56 }} onClick={close}>
            Close
          </button>
          <button type="submit" className="key tape" style={{ minHeight: 56 }} disabled={!place || keep.isPending}>
            Keep{level.spots.length > 1 ? `, ${count(level.spots.length - spot - 1, "spot")} after it` : ""} <span className="kc">Enter</span>
          </button>
        </div>
      </form>
    </Dialog>
  );
}
