import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, newId, type Point, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { useUnits } from "../../app/units";
import { PanelView } from "../../drawing/PanelView";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { StrikeDialog } from "../../ui/StrikeDialog";

const angles = ["20", "60", "85"] as const;

/** Readings of gloss and clarity: a place on the panel, an instrument, a value; or pulled from a meter that answers. */
export function MeterDialog({ proof, camera, person, close }: { proof: Schemas["PanelProof"]; camera: Schemas["Camera"] | undefined; person: string; close: () => void }) {
  const u = useUnits();
  const changed = useChanged();
  const last = proof.meters.at(-1);
  const [at, setAt] = useState<Point | null>(last ? { x: last.x_mm, y: last.y_mm } : null);
  const [quantity, setQuantity] = useState<Schemas["Quantity"]>(last?.quantity ?? "gloss");
  const [instrument, setInstrument] = useState(last?.instrument ?? "");
  const [angle, setAngle] = useState(String(last?.angle_deg || 20));
  const [value, setValue] = useState("");
  const [striking, setStriking] = useState<Schemas["MeterRead"] | null>(null);
  const meter = () => ({ id: newId(), person, x_mm: at?.x ?? 0, y_mm: at?.y ?? 0 });
  const add = useMutation({
    mutationFn: () => api.addMeter(proof.panel.id, { ...meter(), quantity, instrument: instrument.trim(), angle_deg: quantity === "gloss" ? Number(angle) : 0, value: Number(value.replace(",", ".")) }),
    onSuccess: async () => {
      setValue("");
      await changed("panel");
    },
  });
  const pull = useMutation({ mutationFn: (name: string) => api.pullMeter(proof.panel.id, { ...meter(), instrument: name }), onSuccess: () => changed("panel") });
  const ready = at !== null && instrument.trim() !== "" && value.trim() !== "" && Number.isFinite(Number(value.replace(",", ".")));
  if (striking)
    return (
      <StrikeDialog
        what={`${striking.quantity} ${striking.value}`}
        close={() => setStriking(null)}
        strike={async (reason) => {
          await api.strikeMeter(striking.id, reason);
          await changed("panel");
        }}
      />
    );
  const fault = add.error ?? pull.error;
  return (
    <Ask title={`Gloss and clarity, ${proof.panel.name}`} wide={940} close={close} leave submit={() => ready && add.mutate()}>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1.2fr) minmax(0,1fr)" }, gap: 24 }}>
        <Box sx={{ display: "flex", flexDirection: "column", minHeight: 300 }}>
          <p className="s" style={{ margin: 0 }}>
            Tap where the meter stands. The same place before and after tells most; three readings of one place tell its own noise.
          </p>
          <PanelView
            u={u}
            panel={proof.panel}
            label="places that were read; tap where the meter stands"
            pick={setAt}
            over={(k) => (
              <>
                {proof.meters
                  .filter((m) => !m.struck_at)
                  .map((m) => (
                    <circle key={m.id} cx={m.x_mm} cy={m.y_mm} r={6 * k} fill={m.after ? "var(--open)" : "var(--paper)"} stroke="var(--ink)" strokeWidth={1.5 * k} />
                  ))}
                {at ? (
                  <g transform={`translate(${at.x} ${at.y}) scale(${k})`}>
                    <path d="M-14 0H14M0 -14V14" stroke="var(--ink)" strokeWidth="3" />
                    <circle r="9" fill="none" stroke="var(--focus)" strokeWidth="3" />
                  </g>
                ) : null}
              </>
            )}
          />
        </Box>
        <Box sx={{ display: "grid", gap: 10, alignContent: "start" }}>
          <Choice label="Reads" value={quantity} options={[["gloss", "gloss, %"], ["clarity", "clarity, 0 to 100"]]} set={setQuantity} tall />
          <Field label="instrument" value={instrument} most={40} placeholder="its name or number" onChange={(e) => setInstrument(e.target.value)} />
          {quantity === "gloss" ? <Choice label="At" value={angle} options={angles.map((a) => [a, `${a}°`] as const)} set={setAngle} tall /> : null}
          <Field label="it shows" number value={value} onChange={(e) => setValue(e.target.value)} autoFocus />
          {camera?.here
            ? camera.meters.map((m) => (
                <Button key={m.instrument} disabled={at === null || pull.isPending} onClick={() => pull.mutate(m.instrument)}>
                  Read {m.quantity} with {m.instrument}
                </Button>
              ))
            : null}
          {at === null ? <p className="s">Tap the place first.</p> : null}
          {fault ? <Notice text={fault.message} /> : null}
          <Box component="ul" sx={{ m: 0, p: 0, listStyle: "none", maxHeight: 170, overflow: "auto" }}>
            {[...proof.meters].reverse().map((m) => (
              <Box component="li" key={m.id} sx={{ display: "flex", justifyContent: "space-between", borderBottom: "1px solid var(--line)", textDecoration: m.struck_at ? "line-through" : "none", gap: 8 }}>
                <span>
                  {m.quantity} <b>{m.value}</b> {m.after ? "after" : "before"}, {m.instrument}
                </span>
                {m.struck_at ? null : (
                  <Button variant="link" onClick={() => setStriking(m)}>
                    strike out
                  </Button>
                )}
              </Box>
            ))}
          </Box>
        </Box>
      </Box>
      <Foot>
        <Button type="submit" variant="tape" disabled={!ready || add.isPending}>
          Keep the reading <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}
