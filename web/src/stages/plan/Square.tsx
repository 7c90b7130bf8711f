import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, newId, type Plan } from "../../api/client";
import { useChanged } from "../../api/queries";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
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

/** What a polished square shows, in a tap each; it teaches the depths. */
export function Square({ plan, offer, close }: { plan: Plan; offer: Offer; close: () => void }) {
  const changed = useChanged();
  const [id] = useState(newId);
  const [left, setLeft] = useState("");
  const [off, setOff] = useState("");
  const dead = plan.panel.dead !== undefined && plan.panel.dead !== "none";
  const keep = useMutation({
    mutationFn: () => api.addSquare(plan.panel.id, { id, ladder: offer.ladder, person: plan.car.painter, ...(left ? { left: Number(left) } : {}), ...(off ? { off_after: Number(off) } : {}) }),
    onSuccess: () => changed("panel"),
  });
  const first = offer.steps[0];
  return (
    <Ask title="What does the square show?" wide={640} close={close} submit={() => keep.mutate()}>
      <p className="s">
        Tape a square on the worst representative place, leave half of it untouched, and polish the other with the way on screen: {offer.steps.map((s) => `${s.title} ${s.passes}×`).join(", ")}. Wipe it, then hold the lamp over both halves.
      </p>
      {keep.data ? (
        <p>{keep.data.text}</p>
      ) : (
        <>
          {dead && first ? <Choice label={`cloth, water and look stopped changing with ${first.title}, pass`} value={off} options={passes} set={setOff} /> : null}
          <Choice label="of the swirls still there on the polished half" value={left} options={lefts} set={setLeft} />
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
          <Button type="submit" variant="tape" disabled={keep.isPending || (!left && !off)}>
            Keep what it shows <span className="kc">Enter</span>
          </Button>
        )}
      </Foot>
    </Ask>
  );
}
