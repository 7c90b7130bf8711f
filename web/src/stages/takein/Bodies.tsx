import { Box, Button } from "@mui/material";
import { useState } from "react";
import { useOutline } from "../../api/queries";
import { FileKey } from "../../ui/FileKey";
import { type Body, type Schemas } from "../../api/client";
import { FlatLay } from "../../drawing/FlatLay";
import { NumberField } from "../../ui/NumberField";
import { Notice } from "../../ui/Notice";
import { short } from "../../app/format";
import type { Draft } from "./draft";

export const own = "own";

/** The bodies as pictures, and one's own outline. */
export function Bodies({ bodies, choose }: { bodies: Body[]; choose: (type: string) => void }) {
  return (
    <div className="bodies" role="group" aria-label="Bodies">
      {bodies.map((b, i) => (
        <Button variant="row" key={b.type} onClick={() => choose(b.type)} aria-label={`${b.name}, ${b.panels.length} panels`}>
          <FlatLay label={b.name} box={b.box} scenery={b.scenery} panels={b.panels} height={150} small />
          <span>
            {b.name} <span className="kc">{i + 1}</span>
          </span>
        </Button>
      ))}
      <Button variant="row" onClick={() => choose(own)}>
        <svg height="150" width="100%" viewBox="0 0 120 70" aria-hidden="true" fill="none" stroke="var(--ink)" strokeWidth="1.5">
          <path d="M26 36C20 12 54 6 70 14s34 8 28 30-22 20-40 20S30 56 26 36z" strokeDasharray="4 3" />
          <path d="M60 26v20M50 36h20" strokeWidth="2" />
        </svg>
        <span>
          your own outline <span className="kc">0</span>
        </span>
      </Button>
    </div>
  );
}

/** The size of the chosen body, in mm. */
export function BodySize({ body, size, set }: { body: Body; size: Draft["size"]; set: (size: Draft["size"]) => void }) {
  const fields: [keyof Draft["size"], string, number][] = [
    ["length_mm", "long", body.length_mm],
    ["width_mm", "wide", body.width_mm],
    ["height_mm", "high", body.height_mm],
  ];
  return (
    <div className="nums three">
      {fields
        .filter(([, , usual]) => usual > 0)
        .map(([field, label, usual]) => (
          <NumberField key={field} label={label} unit="mm" value={size[field] ?? usual} keep={(v) => set({ ...size, [field]: v })} />
        ))}
    </div>
  );
}

/** A drawing of one's own: the file, what it was understood as, its scale. */
export function OwnOutline({ file, set }: { file: Schemas["OutlineFile"] | null; set: (file: Schemas["OutlineFile"]) => void }) {
  const [fault, setFault] = useState("");
  const check = useOutline(file);
  const read = async (f: File) => {
    setFault("");
    if (f.size > 2 << 20) {
      setFault(`${f.name} is larger than 2 MB. Leave pictures out and keep the outlines.`);
      return;
    }
    set({ file_name: f.name, text: await f.text() });
  };
  const scaled = (change: Partial<Schemas["OutlineFile"]>) => {
    if (file) set({ file_name: file.file_name, text: file.text, ...change });
  };
  const panels = check.data?.body.panels ?? [];
  const largest = [...panels].sort((a, b) => b.area_m2 - a.area_m2)[0];
  return (
    <Box sx={{ display: "grid", gap: 8 }}>
      <FileKey label="SVG file of outlines" accept=".svg,image/svg+xml" text={file ? file.file_name : "Choose an SVG file"} take={(f) => void read(f)} />
      {fault ? <Notice text={fault} /> : null}
      {check.error ? <Notice text={check.error.message} /> : null}
      {check.data ? (
        <>
          <p className="s">
            {panels.length} {panels.length === 1 ? "panel" : "panels"}. Scale {check.data.mm_per_unit > 0 ? `${Number(check.data.mm_per_unit.toPrecision(4))} mm a unit, ${check.data.scale_from}` : check.data.scale_from}.
          </p>
          <div className="nums">
            <NumberField label={`width of ${largest?.name ?? "a panel"}`} unit="mm" value={file?.known_mm ?? (check.data.mm_per_unit > 0 ? (largest?.width_mm ?? 0) : 0)} keep={(v) => scaled({ known_mm: v, ...(largest ? { known_panel: largest.name } : {}) })} />
            <NumberField label="or a unit is" unit="mm" value={check.data.mm_per_unit} keep={(v) => scaled({ mm_per_unit: v })} />
          </div>
          {check.data.notes.map((n) => (
            <p key={n} className="s">
              {n}
            </p>
          ))}
        </>
      ) : null}
      {file ? null : (
        <p className="s">
          Closed paths, polygons and rects become panels; id or data-panel names them, data-role makes a crease or a cutout.
        </p>
      )}
    </Box>
  );
}

export function sizeText(b: Body): string {
  const parts = [b.length_mm, b.width_mm, b.height_mm].filter((v) => v > 0).map((v) => short(v));
  return `${parts.join(" × ")} mm`;
}
