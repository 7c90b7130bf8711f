import { Slider } from "@mui/material";
import type { CSSProperties, ReactNode } from "react";
import { short } from "../../app/format";
import type { Schemas } from "../../api/client";

type Photo = Schemas["ProofPhoto"];

const small = (p: Photo) => `/api/photos/${encodeURIComponent(p.id)}/small`;

/** How wide a photo shows the panel, mm; nothing where its scale is not known. */
function wide(p: Photo | undefined): number | undefined {
  const scale = p?.reading?.mm_per_px;
  return p && scale ? p.width_px * scale : undefined;
}

const shape = 16 / 9;

/** As much of the panel as both photos show, mm from side to side: they are drawn at one scale. */
function shown(photos: readonly (Photo | undefined)[]): number | undefined {
  const all = photos.flatMap((p) => {
    const w = wide(p);
    return p && w ? [Math.min(w, (w * p.height_px * shape) / p.width_px)] : [];
  });
  return all.length > 0 ? Math.min(...all) : undefined;
}

function scaled(p: Photo, frame: number | undefined): CSSProperties {
  const w = wide(p);
  return w && frame ? { width: `${(100 * w) / frame}%` } : { width: "100%", height: "100%", objectFit: "cover" };
}

/** The same lamps before and after, at one scale, one slider between them. */
export function Slide({ before, after, at, none }: { before: Photo | undefined; after: Photo | undefined; at: number; none: ReactNode }) {
  const frame = shown([before, after]);
  return (
    <div className="slide">
      {after ? <img src={small(after)} alt="the lamps in the panel after work" style={scaled(after, frame)} /> : <div className="lost">{none}</div>}
      {before || after ? <div className="shade" style={{ clipPath: `inset(0 ${after ? 100 - at : 0}% 0 0)` }}>
        {before ? <img src={small(before)} alt="the lamps in the panel before work" style={scaled(before, frame)} /> : <div className="lost">No photo of before: it is not to be had any more.</div>}
      </div> : null}
      {after ? <span className="edge" style={{ left: `${at}%` }} /> : null}
      <span className="hide" aria-live="polite">
        {after ? `${at} % before` : ""}
      </span>
      {frame ? <span className="hide">{short(frame)} mm of the panel</span> : null}
    </div>
  );
}

export function Handle({ at, set, disabled }: { at: number; set: (v: number) => void; disabled: boolean }) {
  return <Slider aria-label="how much of the photo shows before" value={at} min={0} max={100} step={2} disabled={disabled} onChange={(_, v) => set(v as number)} />;
}
