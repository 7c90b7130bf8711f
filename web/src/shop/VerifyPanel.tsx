import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { api } from "../api/client";
import { Notice } from "../ui/Notice";

/** Looks the whole shop through: database, photos, the film ledger worked out anew. */
export function VerifyPanel() {
  const look = useMutation({ mutationFn: api.verify });
  return (
    <section aria-label="Is everything as it should be?">
      <h2 className="t">Is everything as it should be?</h2>
      <p className="s">Looks at the database, every photo, the film ledger worked out anew from what was logged, and the seals of cars that were handed over.</p>
      <Button variant="quiet" sx={{ justifySelf: "start" }} disabled={look.isPending} onClick={() => look.mutate()}>
        {look.isPending ? "Looking" : "Look the shop through"}
      </Button>
      {look.error ? <Notice text={look.error.message} /> : null}
      {look.data ? (
        look.data.faults.length > 0 ? (
          <Notice text={look.data.text}>
            <ul>
              {look.data.faults.map((f) => (
                <li key={f.name + f.text}>
                  <b>{f.name}</b>: {f.text}
                </li>
              ))}
            </ul>
          </Notice>
        ) : (
          <p role="status">
            <b>{look.data.text}</b>
          </p>
        )
      ) : null}
    </section>
  );
}
