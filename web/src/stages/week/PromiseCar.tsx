import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { Ask, Foot } from "../../ui/Ask";
import { Notice } from "../../ui/Notice";
import { When } from "../../ui/When";

/** For when a car was promised: its chain is held to it. */
export function PromiseCar({ car, close }: { car: Schemas["WeekCar"]; close: () => void }) {
  const changed = useChanged();
  const [at, setAt] = useState(car.due_at ?? car.done_at);
  const save = useMutation({ mutationFn: (due: string | undefined) => api.setPromise(car.id, due), onSuccess: async () => (await changed("cars"), close()) });
  return (
    <Ask title={`${car.name}: promised for`} close={close} leave submit={() => save.mutate(at)}>
      <p className="s">As it is planned it is {car.text}.</p>
      <When label="ready at" value={at} set={setAt} />
      {save.error ? <Notice text={save.error.message} /> : null}
      <Foot>
        {car.due_at ? (
          <Button onClick={() => save.mutate(undefined)} disabled={save.isPending}>
            No date
          </Button>
        ) : null}
        <Button type="submit" variant="tape" disabled={save.isPending || !at}>
          Promise it <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}
