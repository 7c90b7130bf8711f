import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../../api/client";
import { useChanged, usePeople } from "../../api/queries";
import { Ask, Foot } from "../../ui/Ask";
import { Field, Pick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";

/** How long some work took, as one says it: minutes, hours as 1:40 or 1.5 h. */
function minutesOf(text: string): number | null {
  const t = text.trim().replace(",", ".");
  const parts = /^(\d+):([0-5]\d)$/.exec(t);
  if (parts) return 60 * Number(parts[1]) + Number(parts[2]);
  const hours = /^(\d+(?:\.\d+)?)\s*h$/.exec(t);
  if (hours) return 60 * Number(hours[1]);
  return /^\d+(\.\d+)?$/.test(t) ? Number(t) : null;
}

/** Says how long a line of work took; it counts instead of the clock. */
export function SayAsk({ car, line, close }: { car: Schemas["CarSummary"]; line: Schemas["WentLine"]; close: () => void }) {
  const changed = useChanged();
  const people = usePeople().data?.people.map((p) => p.name) ?? [];
  const [text, setText] = useState(String(Math.round(line.said_min ?? line.took_min?.likely ?? line.planned_min)));
  const [person, setPerson] = useState(car.painter);
  const [fault, setFault] = useState("");
  const keep = useMutation({
    mutationFn: (minutes: number) => api.sayTime(car.id, { what: line.what, minutes, person: person.trim() }),
    onSuccess: async () => {
      await changed("panel");
      close();
    },
  });
  const say = () => {
    const m = minutesOf(text);
    if (m === null || m === 0) return setFault("A time is a number of minutes, such as 45, or hours and minutes, such as 1:40 or 1.5 h.");
    setFault("");
    keep.mutate(m);
  };
  return (
    <Ask title={`How long it took: ${line.name}`} close={close} submit={say}>
      <p style={{ margin: 0 }}>
        All that was done of it on this car so far, with what goes with it: set up, rinse, look, breaks. Planned {line.planned_min.toFixed(0)} min{line.done > 0 && line.done < 1 ? ` for all of it; ${(100 * line.done).toFixed(0)} % is done` : ""}.
      </p>
      <Field label="minutes, or hours as 1:40" number value={text} most={12} autoFocus onFocus={(e) => e.target.select()} onChange={(e) => setText(e.target.value)} inputProps={{ "aria-label": "minutes, or hours as 1:40" }} />
      <Pick label="who did it" value={person} set={setPerson}>
        {[...new Set([car.painter, ...people])].map((p) => (
          <option key={p} value={p}>
            {p}
          </option>
        ))}
      </Pick>
      <p className="s" style={{ margin: 0 }}>
        It counts instead of the clock and teaches the pace that Hands shows.
      </p>
      {fault || keep.error ? <Notice text={fault || keep.error?.message || ""} /> : null}
      <Foot>
        {line.said_min === undefined ? null : (
          <Button variant="quiet" disabled={keep.isPending} onClick={() => keep.mutate(0)}>
            Take back what was said
          </Button>
        )}
        <Button variant="quiet" onClick={close}>
          Not now
        </Button>
        <Button type="submit" variant="tape" disabled={keep.isPending || !person.trim()}>
          Keep <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}
