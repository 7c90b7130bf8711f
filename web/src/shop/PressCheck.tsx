import { Box } from "@mui/material";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../api/client";
import { Field, Pick } from "../ui/Field";

/** What a hand puts on a bathroom scale against what the block wants. */
export function PressCheck({ backings }: { backings: Schemas["BackingName"][] }) {
  const [backing, setBacking] = useState(backings[0]?.key ?? "");
  const [typed, setTyped] = useState("");
  const kg = Number(typed.trim().replace(",", "."));
  const asked = typed.trim() !== "" && !Number.isNaN(kg);
  const press = useQuery({ queryKey: ["press", backing, kg], queryFn: () => api.press(backing, kg), enabled: asked, placeholderData: keepPreviousData, retry: false });
  return (
    <section aria-label="Weight of the hand">
      <h2 className="heading t">
        Weight of the hand <span className="s">press on a bathroom scale as you would on the panel</span>
      </h2>
      <Box sx={{ display: "grid", gap: 12, gridTemplateColumns: "minmax(0,220px) 130px", alignItems: "end" }}>
        <Pick label="with" value={backing} set={setBacking}>
          {backings.map((b) => (
            <option key={b.key} value={b.key}>
              {b.name}
            </option>
          ))}
        </Pick>
        <Field label="the scale shows" number unit="kg" value={typed} onChange={(e) => setTyped(e.target.value)} />
      </Box>
      <p className="s" aria-live="polite">
        {press.error ? press.error.message : asked && press.data ? press.data.text : "A fifth more weight cuts a fifth faster, and flattens less."}
      </p>
    </section>
  );
}
