import { Dialog, MenuItem, TextField } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, type Panel, type Schemas } from "../api/client";
import { Notice } from "../shell/Notice";
import { finishes } from "./FactsDialog";

type NewCar = Schemas["NewCar"];

/** Takes a car or a loose panel in. */
export function TakeIn({ close }: { close: () => void }) {
  const queries = useQueryClient();
  const go = useNavigate();
  const [car, setCar] = useState({ name: "", body: "saloon", colour: "medium", painter: "", width: "900", height: "600", finish: "factory", coats: "0" });
  const set = (field: keyof typeof car) => (event: { target: { value: string } }) => setCar({ ...car, [field]: event.target.value });
  const loose = car.body === "loose";
  const take = useMutation({
    mutationFn: () =>
      api.takeIn({
        name: car.name,
        body: car.body as NewCar["body"],
        colour: car.colour as NewCar["colour"],
        painter: car.painter,
        finish: car.finish as Panel["finish"],
        coats: Number(car.coats),
        ...(loose ? { width_mm: Number(car.width), height_mm: Number(car.height) } : {}),
      }),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ["cars"] });
      close();
      void go(`/cars/${encodeURIComponent(made.id)}`);
    },
  });
  return (
    <Dialog open onClose={close} aria-labelledby="takein">
      <form
        style={{ padding: "24px 28px", width: 560, maxWidth: "100%", display: "grid", gap: 16, gridTemplateColumns: "1fr 1fr" }}
        onSubmit={(event) => {
          event.preventDefault();
          take.mutate();
        }}
      >
        <h2 id="takein" className="t" style={{ fontSize: 22, lineHeight: "26px", gridColumn: "1/-1" }}>
          Take in a car
        </h2>
        <TextField label="Name" value={car.name} onChange={set("name")} autoFocus placeholder="Pilot car" />
        <TextField label="Who works on it" value={car.painter} onChange={set("painter")} placeholder="Tove" />
        <TextField select label="Body" value={car.body} onChange={set("body")}>
          <MenuItem value="saloon">saloon</MenuItem>
          <MenuItem value="loose">loose panel</MenuItem>
        </TextField>
        <TextField select label="Colour" value={car.colour} onChange={set("colour")}>
          <MenuItem value="light">light</MenuItem>
          <MenuItem value="medium">medium</MenuItem>
          <MenuItem value="dark">dark, shows haze</MenuItem>
        </TextField>
        {loose ? (
          <>
            <TextField label="Width, mm" value={car.width} onChange={set("width")} slotProps={{ htmlInput: { inputMode: "decimal" } }} />
            <TextField label="Height, mm" value={car.height} onChange={set("height")} slotProps={{ htmlInput: { inputMode: "decimal" } }} />
          </>
        ) : null}
        <TextField select label="Finish of its panels" value={car.finish} onChange={set("finish")}>
          {Object.entries(finishes).map(([value, words]) => (
            <MenuItem key={value} value={value}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        <TextField label="Coats of clear, 0 unknown" value={car.coats} onChange={set("coats")} slotProps={{ htmlInput: { inputMode: "numeric" } }} />
        <p className="s" style={{ gridColumn: "1/-1" }}>
          Single panels can be changed afterwards, in Read with F.
        </p>
        {take.error ? (
          <div style={{ gridColumn: "1/-1" }}>
            <Notice text={take.error.message} />
          </div>
        ) : null}
        <div style={{ gridColumn: "1/-1", display: "flex", gap: 10, justifyContent: "flex-end" }}>
          <button type="button" className="key q" onClick={close}>
            Not now
          </button>
          <button type="submit" className="key tape" disabled={take.isPending}>
            Take in <span className="kc">Enter</span>
          </button>
        </div>
      </form>
    </Dialog>
  );
}
