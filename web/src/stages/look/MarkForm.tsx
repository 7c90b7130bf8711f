import { Box, Button } from "@mui/material";
import { useState } from "react";
import type { Mark, MarkSizes, Schemas } from "../../api/client";
import { below, classes, founds, infoOf, type Field as Size } from "../../drawing/kinds";
import { Field } from "../../ui/Field";
import { FileKey } from "../../ui/FileKey";
import { Choice } from "../../ui/Choice";
import { FilmField, NumberField } from "../../ui/NumberField";
import { useUnits } from "../../app/units";

type Found = Schemas["Found"];
type Outcome = Schemas["Outcome"];

const numbers: Partial<Record<Size, { field: keyof MarkSizes; label: string; unit: string }>> = {
  size: { field: "size_um", label: "read", unit: "film" },
  density: { field: "density_dm2", label: "pits", unit: "/dm²" },
  length: { field: "length_mm", label: "long", unit: "mm" },
  width: { field: "width_mm", label: "wide", unit: "mm" },
  diameter: { field: "width_mm", label: "across", unit: "mm" },
  angle: { field: "angle_deg", label: "turned", unit: "°" },
};

interface MarkFormProps {
  mark: Mark;
  change: (body: Schemas["MarkChange"], label: string) => void;
  close: (outcome: Outcome, reason: string) => void;
  strike: () => void;
  mirror: () => void;
  compare: () => void;
  photo: (file: File) => void;
  done: () => void;
}

/** The chosen mark: its sizes, where it was found, what became of it. */
export function MarkForm({ mark, change, close, strike, mirror, compare, photo, done }: MarkFormProps) {
  const u = useUnits();
  const [reason, setReason] = useState<string | null>(null);
  const info = infoOf(mark.kind);
  const size = (sizes: MarkSizes) => change({ sizes }, `${mark.name} ${mark.no}`);
  const heights = Object.entries(classes).filter(([c]) => c !== "colour" || below.includes(mark.kind)) as [keyof typeof classes, string][];
  return (
    <section aria-label="The chosen mark" className="markform">
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 10 }}>
        <Box component="h2" className="t" sx={{ fontSize: 22, lineHeight: "28px" }}>
          {mark.name} {mark.no}
        </Box>
        {mark.relief_um.mean > 0 ? (
          <Box component="span" className="n" sx={{ fontSize: 16 }}>
            {u.plusMinus(mark.relief_um)} <span className="u">{u.name}</span>
          </Box>
        ) : null}
        <Button variant="link" sx={{ marginLeft: "auto", minHeight: 32 }} onClick={done}>
          all marks
        </Button>{" "}
        <span className="kc">Esc</span>
      </Box>
      <Box component="p" sx={{ fontSize: 15, lineHeight: "20px" }}>{mark.text}</Box>
      {mark.outcome === "open" ? (
        <>
          {info.fields.includes("crest") ? (
            <div className="nums">
              <FilmField label="on the crest" value={mark.crest_um} keep={(v) => size({ crest_um: v })} />
              <FilmField label="beside it" value={mark.beside_um} keep={(v) => size({ beside_um: v })} />
            </div>
          ) : null}
          {info.fields.includes("class") ? <Choice label={below.includes(mark.kind) ? "how deep" : "how high"} value={mark.size_um > 0 || mark.crest_um > 0 ? "" : (mark.class as keyof typeof classes)} options={heights} set={(v) => size({ class: v, size_um: 0, crest_um: 0, beside_um: 0 })} /> : null}
          {info.fields.includes("grade") ? (
            <Box sx={{ display: "flex", gap: 10, alignItems: "flex-end" }}>
              <NumberField label="peel grade" unit="of 10" value={mark.grade} keep={(v) => size({ grade: v })} />
              <Button variant="quiet" onClick={compare} sx={{ minHeight: 40 }}>
                Compare <span className="kc">V</span>
              </Button>
            </Box>
          ) : null}
          <div className="nums">
            {info.fields.map((f) => {
              const n = numbers[f];
              if (!n) return null;
              const value = mark[n.field as "length_mm"];
              if (n.field === "size_um") return <FilmField key={f} label={n.label} value={value} keep={(v) => size({ size_um: v })} {...(f === info.fields.find((x) => numbers[x]) ? { id: "marksize" } : {})} />;
              return <NumberField key={f} label={n.label} unit={n.unit} value={value} keep={(v) => size(f === "diameter" ? { width_mm: v, length_mm: v } : { [n.field]: v })} {...(f === info.fields.find((x) => numbers[x]) ? { id: "marksize" } : {})} />;
            })}
          </div>
          <Choice<Found> label="found" value={mark.found} options={Object.entries(founds) as [Found, string][]} set={(v) => change({ found: v }, `${mark.name} ${mark.no}`)} />
        </>
      ) : null}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 8, alignItems: "center" }}>
        {mark.outcome === "open" ? (
          <>
            <Button onClick={() => close("gone", "")}>
              Gone
            </Button>
            <Button onClick={() => close("softened", "")}>
              Softened
            </Button>
            <Button onClick={() => setReason(reason === null ? "" : null)} aria-expanded={reason !== null}>
              Left
            </Button>
          </>
        ) : (
          <Button onClick={() => close("open", "")}>
            Open again
          </Button>
        )}
        <Button variant="quiet" onClick={strike}>
          Strike <span className="kc">Del</span>
        </Button>
        <Button variant="quiet" onClick={mirror}>
          Mirror <span className="kc">M</span>
        </Button>
        <FileKey label="Photo of the mark" accept="image/jpeg,image/png" text={mark.photo ? "New photo" : "Photo"} take={photo} />
      </Box>
      {reason !== null && mark.outcome === "open" ? (
        <Box component="form"
          sx={{ display: "flex", gap: 8 }}
          onSubmit={(e) => {
            e.preventDefault();
            if (reason.trim().length > 1) close("left", reason.trim());
          }}
        >
          <Field label="why it is left; the owner will ask" autoFocus value={reason} onChange={(e) => setReason(e.target.value)} placeholder="deeper than the clear" />
          <Button type="submit" sx={{ alignSelf: "flex-end" }} disabled={reason.trim().length < 2}>
            Leave it
          </Button>
        </Box>
      ) : null}
      <Field
        label="note"
        defaultValue={mark.note}
        most={500}
        placeholder="under the handle"
        onBlur={(e) => {
          if (e.target.value.trim() !== mark.note) size({ note: e.target.value.trim() });
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") (e.target as HTMLElement).blur();
        }}
      />
      {mark.photo ? <Box component="img" src={`/api/marks/${encodeURIComponent(mark.id)}/photo`} alt={`${mark.name} ${mark.no}`} sx={{ maxWidth: "100%", maxHeight: 150, border: "1px solid var(--line)" }} /> : null}
    </section>
  );
}
