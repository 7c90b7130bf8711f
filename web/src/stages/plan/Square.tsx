import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, newId, type Plan } from "../../api/client";
import { useChanged } from "../../api/queries";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Field, Pick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import type { Offer } from "./ladder";

const lefts: [string, string][] = [
  ["0", "none"],
  ["0.1", "1 in 10"],
  ["0.25", "a quarter"],
  ["0.5", "half"],
  ["0.75", "three quarters"],
  ["1", "all"],
];
const passes: [string, string][] = Array.from({ length: 8 }, (_, i) => [String(i + 1), String(i + 1)]);
const nothing = { left: "", off: "", before: "", after: "" };
const figure = (text: string) => Number(text.replace(",", "."));

/** What a polished square shows, in a tap each; it teaches the depths. */
export function Square({ plan, offer, close }: { plan: Plan; offer: Offer; close: () => void }) {
  const changed = useChanged();
  const [id, setId] = useState(newId);
  // As it was on screen when the square was polished: the plan may be asked for anew behind.
  const [first] = useState({ ladder: offer.ladder, gone: offer.steps.at(-1)?.gone, text: offer.steps.map((s) => `${s.title} ${s.passes}×`).join(", ") });
  const [squares] = useState(plan.squares);
  const [ladder, setLadder] = useState(first.ladder);
  const [seen, setSeen] = useState(nothing);
  const set = (more: Partial<typeof nothing>) => setSeen((s) => ({ ...s, ...more }));
  const dead = plan.panel.dead !== undefined && plan.panel.dead !== "none";
  const metered = seen.before !== "" && seen.after !== "";
  const keep = useMutation({
    mutationFn: () =>
      api.addSquare(plan.panel.id, {
        id,
        ladder,
        person: plan.car.painter,
        ...(metered ? { clarity_before: figure(seen.before), clarity_after: figure(seen.after) } : seen.left ? { left: Number(seen.left) } : {}),
        ...(seen.off ? { off_after: Number(seen.off) } : {}),
      }),
    onSuccess: () => changed("panel"),
  });
  const processes = [first, ...squares.filter((s) => s.ladder !== first.ladder)];
  const gone = processes.find((p) => p.ladder === ladder)?.gone ?? 0;
  const next = squares.find((s) => (s.gone ?? 0) > gone + 0.01);
  return (
    <Ask title="What does the square show?" wide={640} close={close} submit={() => keep.mutate()}>
      <p className="s">Tape a square on the worst representative place, leave half of it untouched, and polish the other. Wipe it, then hold the lamp over both halves.</p>
      {keep.data ? (
        <>
          <p>{keep.data.text}</p>
          {next ? (
            <p className="s">
              Not enough yet? Tape another square for {next.text}.{" "}
              <Button
                variant="link"
                onClick={() => {
                  keep.reset();
                  setId(newId());
                  setSeen(nothing);
                  setLadder(next.ladder);
                }}
              >
                Say what that one shows
              </Button>
            </p>
          ) : null}
        </>
      ) : (
        <>
          <Pick label="polished with" value={ladder} set={setLadder}>
            {processes.map((p, i) => (
              <option key={p.ladder} value={p.ladder}>
                {p.text}
                {i === 0 ? ", the way on screen" : ""}
              </option>
            ))}
          </Pick>
          {dead ? <Choice label="cloth, water and look stopped changing with its first step, pass" value={seen.off} options={passes} set={(off) => set({ off })} /> : null}
          <Choice label="of the swirls still there on the polished half" value={metered ? "" : seen.left} options={lefts} set={(left) => set({ left, before: "", after: "" })} />
          <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 10, alignItems: "end" }}>
            <Field label="or clarity by meter, half left" unit="of 100" number value={seen.before} most={6} onChange={(e) => set({ before: e.target.value })} />
            <Field label="half polished" unit="of 100" number value={seen.after} most={6} onChange={(e) => set({ after: e.target.value })} />
          </Box>
        </>
      )}
      {keep.error ? <Notice text={keep.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={close}>
          {keep.data ? "Close" : "Not now"}
        </Button>
        {keep.data ? (
          <Box />
        ) : (
          <Button type="submit" variant="tape" disabled={keep.isPending || (!seen.left && !seen.off && !metered)}>
            Keep what it shows <span className="kc">Enter</span>
          </Button>
        )}
      </Foot>
    </Ask>
  );
}
