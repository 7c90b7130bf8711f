import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Refusal, type Level, type Reading } from "../../api/client";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { Offers } from "../../outbox/Offers";
import { queue } from "../../outbox/queue";
import { useOneId } from "../../outbox/useOneId";
import { count } from "../../app/format";
import { useUnits } from "../../app/units";

/** A gauge reading taken while levelling: which spot, what it shows. Without a network it is kept for later. */
export function ReadHere({ level, close }: { level: Level; close: () => void }) {
  const u = useUnits();
  const [spot, setSpot] = useState(0);
  const [value, setValue] = useState("");
  const { idFor, done } = useOneId();
  const [own, setOwn] = useState("");
  const [said, setSaid] = useState("");
  const place = level.spots[spot];
  const keep = useMutation({
    mutationFn: async (what: { film: number; unit: "um" | "mil"; sure?: string }) => {
      const at = { x_mm: place?.x_mm ?? 0, y_mm: place?.y_mm ?? 0 };
      const id = idFor([at, what]);
      const out = await queue.put({ what: "reading", id, panel: level.panel.id, made: Date.now(), body: { id, ...at, phase: "total", ...what } });
      done(id);
      if ("refused" in out) throw new Refusal(out.refused);
      return "answer" in out ? (out.answer as Reading) : null;
    },
    onSuccess: (kept) => {
      setValue("");
      if (spot + 1 < level.spots.length) {
        setSpot(spot + 1);
        setSaid(kept ? `${u.um(kept.film_um)} ${u.name} kept. Passes left have been counted again; read the next spot or close.` : "Kept on this device until the shop server answers. Read the next spot or close.");
      } else close();
    },
  });
  const send = () => {
    const film = Number(value.replace(",", "."));
    if (value.trim() === "" || Number.isNaN(film)) {
      setOwn(`Type what the gauge shows in ${u.name}, then Enter.`);
      return;
    }
    setOwn("");
    keep.mutate({ film, unit: u.code });
  };
  return (
    <Ask title="Read the gauge" wide={460} close={close} submit={send}>
        <p className="s">Rinse and wipe dry first; the probe must not sit on slurry.</p>
        <Choice label="Spot" silent tall value={String(spot)} options={level.spots.map((_, i) => [String(i), `spot ${i + 1}`] as const)} set={(v) => setSpot(Number(v))} />
        {place ? (
          <p className="s">
            At {u.size(place.x_mm, place.y_mm, ", ")}. {place.total_um ? `The map had ${u.plusMinus(place.total_um)} ${u.name} here before the passes.` : ""}
          </p>
        ) : (
          <p className="s">No place of this section is clear of edges and readings.</p>
        )}
        <Field label={`Film at spot ${spot + 1}, ${u.name}`} silent large autoFocus unit={u.name} inputProps={{ inputMode: "decimal" }} value={value} onChange={(e) => setValue(e.target.value.replace(/[^0-9.,-]/g, "").slice(0, 8))} />
        {own ? <Notice text={own} /> : keep.error ? <Offers error={keep.error} leave={() => keep.reset()} take={(o, sure) => keep.mutate({ film: o.film, unit: o.unit, ...(sure ? { sure } : {}) })} /> : said ? <p className="s" role="status">{said}</p> : null}
        <Foot>
          <Button variant="quiet" sx={{ minHeight: 56 }} onClick={close}>
            Close
          </Button>
          <Button type="submit" variant="tape" sx={{ minHeight: 56 }} disabled={!place || keep.isPending}>
            Keep{level.spots.length > 1 ? `, ${count(level.spots.length - spot - 1, "spot")} after it` : ""} <span className="kc">Enter</span>
          </Button>
        </Foot>
    </Ask>
  );
}
