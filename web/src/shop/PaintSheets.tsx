import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../api/client";
import { useChanged, useWorkshop } from "../api/queries";
import { useUnits } from "../app/units";
import { Ask, Foot } from "../ui/Ask";
import { Field, Tick } from "../ui/Field";
import { Notice } from "../ui/Notice";

type Sheet = Schemas["PaintSheet"];
type Numbers = Exclude<keyof Sheet, "name" | "colour">;

const asked: { key: Numbers; label: string; unit: string }[] = [
  { key: "coats", label: "coats it is meant for", unit: "" },
  { key: "sand_air_h", label: "ready to sand, in air", unit: "h" },
  { key: "sand_baked_h", label: "ready to sand, baked", unit: "h" },
  { key: "cuts_well_d", label: "cuts well until", unit: "days" },
  { key: "polish_air_h", label: "ready to polish, in air", unit: "h" },
  { key: "polish_baked_h", label: "ready to polish, baked", unit: "h" },
  { key: "seal_d", label: "may be sealed after", unit: "days" },
  { key: "dry_h", label: "kept dry for", unit: "h" },
];

/** What a maker's sheet says in a line. */
function says(p: Sheet, um: (v: number) => string, unit: string): string {
  const parts: string[] = [];
  if (p.coat_um) parts.push(`${um(p.coat_um)} ${unit} a coat`);
  if (p.sand_air_h !== undefined) parts.push(`sand after ${p.sand_air_h} h in air${p.sand_baked_h !== undefined ? `, ${p.sand_baked_h} h baked` : ""}`);
  if (p.cuts_well_d !== undefined) parts.push(`cuts well for ${p.cuts_well_d} days`);
  if (p.seal_d !== undefined) parts.push(`seal after ${p.seal_d} days`);
  return parts.join("; ") || "nothing is said of it yet";
}

function SheetDialog({ sheet, keep, drop, error, busy, close }: { sheet: Sheet; keep: (s: Sheet) => void; drop: (() => void) | undefined; error: string; busy: boolean; close: () => void }) {
  const u = useUnits();
  const [name, setName] = useState(sheet.name);
  const [colour, setColour] = useState(sheet.colour ?? false);
  const [coat, setCoat] = useState(sheet.coat_um ? u.um(sheet.coat_um) : "");
  const [texts, setTexts] = useState<Partial<Record<Numbers, string>>>(() => Object.fromEntries(asked.map(({ key }) => [key, sheet[key] === undefined ? "" : String(sheet[key])])));
  const [fault, setFault] = useState("");
  const number = (text: string) => Number(text.trim().replace(",", "."));
  const save = () => {
    const out: Sheet = { name: name.trim() };
    if (colour) out.colour = true;
    const wrong = [...asked.map(({ key, label }) => [label, texts[key] ?? ""] as const), ["dry film a coat", coat] as const].find(([, text]) => Number.isNaN(number(text)));
    if (wrong) return setFault(`${wrong[0]}: “${wrong[1]}” is no number. Leave it empty where the sheet says nothing.`);
    if (coat.trim()) out.coat_um = u.typed(number(coat));
    for (const { key } of asked) if ((texts[key] ?? "").trim()) out[key] = number(texts[key] ?? "");
    setFault("");
    keep(out);
  };
  return (
    <Ask title={sheet.name || "A maker’s sheet"} close={close} leave submit={save}>
      <Field label="name of the clear or colour" value={name} most={60} onChange={(e) => setName(e.target.value)} />
      <Tick checked={colour} set={setColour}>
        single stage: the colour itself is cut
      </Tick>
      <Box sx={{ display: "grid", gap: 12, gridTemplateColumns: "repeat(auto-fit, minmax(180px, 1fr))" }}>
        <Field label="dry film a coat" number unit={u.name} value={coat} onChange={(e) => setCoat(e.target.value)} />
        {asked.map(({ key, label, unit }) => (
          <Field key={key} label={label} number {...(unit ? { unit } : {})} value={texts[key] ?? ""} onChange={(e) => setTexts({ ...texts, [key]: e.target.value })} />
        ))}
      </Box>
      <p className="s">Copy what the sheet says; leave out what it does not. Panels keep the sheet as it was when they were taken in.</p>
      {fault || error ? <Notice text={fault || error} /> : null}
      <Foot>
        {drop ? (
          <Button onClick={drop} disabled={busy}>
            Not used any more
          </Button>
        ) : null}
        <Button type="submit" variant="tape" disabled={busy}>
          Keep <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}

/** What the makers' sheets of the shop's paints say: Take in picks one. */
export function PaintSheets() {
  const query = useWorkshop();
  const changed = useChanged();
  const u = useUnits();
  const [at, setAt] = useState<number | null>(null);
  const set = useMutation({ mutationFn: api.setWorkshop, onSuccess: () => setAt(null), onSettled: () => changed("house") });
  const shop = query.data;
  if (!shop) return null;
  const sheet = at === null ? null : (shop.paints[at] ?? { name: "" });
  return (
    <section aria-label="Paints">
      <h2 className="heading t">
        Paints <span className="s">what the maker’s sheet of each says comes before any rule</span>
      </h2>
      {shop.paints.length === 0 ? <p className="s">None is written down. With one, Take in knows the film a coat, and the week knows when it is hard.</p> : null}
      {shop.paints.map((p, i) => (
        <Box key={p.name} sx={{ borderBottom: "1px solid var(--line)", padding: "6px 0" }}>
          <Button variant="link" onClick={() => setAt(i)}>
            {p.name}
          </Button>
          <div className="s">{says(p, u.um, u.name)}</div>
        </Box>
      ))}
      <Button sx={{ marginTop: 10 }} onClick={() => setAt(shop.paints.length)}>
        Write down a sheet
      </Button>
      {sheet && at !== null ? (
        <SheetDialog
          key={at}
          sheet={sheet}
          error={set.error?.message ?? ""}
          busy={set.isPending}
          close={() => setAt(null)}
          keep={(s) => set.mutate({ ...shop, paints: at < shop.paints.length ? shop.paints.map((p, i) => (i === at ? s : p)) : [...shop.paints, s] })}
          drop={at < shop.paints.length ? () => set.mutate({ ...shop, paints: shop.paints.filter((_, i) => i !== at) }) : undefined}
        />
      ) : null}
    </section>
  );
}
