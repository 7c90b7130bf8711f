import { Button } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { keys } from "../../api/queries";
import { Tick } from "../../ui/Field";
import { api, type Car, type Schemas } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { useUnits } from "../../app/units";

/** What will not come out, said to the owner before the work. */
export function Tellings({ car, said }: { car: Car; said: (key: string) => void }) {
  const open = car.tellings.filter((t) => !t.said_at).length;
  const next = car.tellings.find((t) => !t.said_at);
  return (
    <section aria-label="This will not come out">
      <h2 className="t heading">
        This will not come out <span className="s">{open > 0 ? "tell the owner now" : car.tellings.length > 0 ? "all said" : "nothing known yet"}</span>
      </h2>
      {car.tellings.length === 0 ? <p className="s">Marks that stay, and texture that the film or the aim leaves, come here in plain words.</p> : null}
      <ol className="tellings">
        {car.tellings.map((t, i) => (
          <li key={t.key}>
            <span className="n">{i + 1}</span>
            <span>
              <span className="b">{t.title}</span> {t.text}
            </span>
            <Button variant="link" className="nowrap" onClick={() => said(t.key)} aria-label={`${t.title} ${t.said_at ? "said" : "not yet said"}`}>
              {t.said_at ? "said" : "not yet"} {t === next ? <span className="kc">Y</span> : null}
            </Button>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** What is done to the car before it is looked over; advice, never a lock. */
export function Checklist({ car }: { car: Car }) {
  const u = useUnits();
  const queries = useQueryClient();
  const tick = useMutation({
    mutationFn: (t: Schemas["Task"]) => api.tick(car.id, { task: t.task, done: !t.done_at, person: car.painter }),
    onSuccess: (checklist) => {
      queries.setQueryData<Car>(keys.car(car.id), (old) => (old ? { ...old, checklist } : old));
      return queries.invalidateQueries({ queryKey: keys.car(car.id) });
    },
  });
  return (
    <section aria-label="Before the work">
      <h2 className="t heading">
        Before the work <span className="s">not forced</span>
      </h2>
      <ul className="checklist">
        {car.checklist.map((t) => (
          <li key={t.task}>
            <Tick checked={tick.isPending && tick.variables.task === t.task ? !t.done_at : Boolean(t.done_at)} set={() => tick.mutate(t)}>
              {t.text}
            </Tick>
            {t.done_at ? (
              <span className="s nowrap">
                {t.person} {u.clock(new Date(t.done_at))}
              </span>
            ) : null}
          </li>
        ))}
      </ul>
      {tick.error ? <Notice text={tick.error.message} /> : null}
      <p className="s">Panel wipe is flammable: ventilate, no sparks, gloves, rags into a closed metal bin. The product's safety sheet decides.</p>
    </section>
  );
}
