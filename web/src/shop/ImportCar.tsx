import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, type Schemas } from "../api/client";
import { useChanged } from "../api/queries";
import { bodyName, count } from "../app/format";
import { handOverOf } from "../app/stageNotes";
import { Ask, Foot } from "../ui/Ask";
import { FileKey } from "../ui/FileKey";
import { Notice } from "../ui/Notice";

/** A car that was written as a file, here or in another shop: looked through before it is kept. */
export function ImportCar() {
  const receive = useMutation({ mutationFn: (file: File) => api.receiveCar(file) });
  return (
    <section aria-label="A car from a file">
      <h2 className="t">A car from a file</h2>
      <p className="s">A whole car as another shop or this one wrote it (Hand over, as files). It is looked through first, and nothing is kept before you say so.</p>
      <FileKey label="File of a car" accept=".zip,.json,application/zip,application/json" text={receive.isPending ? "Looking it through" : "Choose the file"} take={(file) => receive.mutate(file)} />
      {receive.error ? <Notice text={receive.error.message} /> : null}
      {receive.data ? <Waiting key={receive.data.id} car={receive.data} close={() => receive.reset()} /> : null}
    </section>
  );
}

function Waiting({ car, close }: { car: Schemas["WaitingCar"]; close: () => void }) {
  const go = useNavigate();
  const changed = useChanged();
  const keep = useMutation({
    mutationFn: (as: "new" | "same") => api.keepCar(car.id, as),
    onSuccess: async (kept) => {
      await changed("panel");
      void go(car.known ? handOverOf(kept.id) : `/cars/${encodeURIComponent(kept.id)}`);
    },
  });
  const leave = () => {
    void api.dropImport(car.id).catch(() => undefined); // it goes by itself in an hour
    close();
  };
  const best = car.may_be_put_to || !car.known ? "same" : "new";
  return (
    <Ask title={car.name} close={leave} submit={() => keep.mutate(best)} wide={640}>
      <p style={{ margin: 0 }}>
        {bodyName(car.body)}, {car.colour}: {count(car.panels, "panel")}, {count(car.readings, "reading")}, {count(car.marks, "mark")}, {count(car.passes, "pass")}, {count(car.photos, "photo")}.
      </p>
      {car.notes.map((n) => (
        <Notice key={n} text={n} />
      ))}
      {car.changes.length > 0 ? (
        <div>
          <b>What putting it to the car that is here changes</b>
          <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0, maxHeight: 260, overflowY: "auto" }}>
            {car.changes.map((c) => (
              <Box component="li" key={c.name + c.text} sx={{ borderBottom: "1px solid var(--line)", py: 5 }}>
                <span className="b">{c.name}</span> <span className="s">{c.text}</span>
              </Box>
            ))}
          </Box>
        </div>
      ) : null}
      {keep.error ? <Notice text={keep.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={leave}>
          Keep nothing
        </Button>
        {car.known ? (
          <Button variant={best === "new" ? "tape" : "quiet"} type={best === "new" ? "submit" : "button"} disabled={keep.isPending} onClick={best === "new" ? undefined : () => keep.mutate("new")}>
            As a new car beside it {best === "new" ? <span className="kc">Enter</span> : null}
          </Button>
        ) : null}
        {best === "same" ? (
          <Button type="submit" variant="tape" disabled={keep.isPending}>
            {car.known ? "Put it to the car that is here" : "Keep it"} <span className="kc">Enter</span>
          </Button>
        ) : null}
      </Foot>
    </Ask>
  );
}
