import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState, type PointerEvent } from "react";
import { api, newId, type Schemas } from "../../api/client";
import { useChanged, useLamps } from "../../api/queries";
import { useKeys } from "../../app/keys";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Field, Pick, Tick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { NumberField } from "../../ui/NumberField";
import { StrikeDialog } from "../../ui/StrikeDialog";

type Photo = Schemas["ProofPhoto"];
type Take = Schemas["Take"];
type Area = Schemas["Area"];

const whole: Area = { left: 0, top: 0, right: 1, bottom: 1 };

/** The photo, with the part of it that is read; a finger or the mouse draws another. */
function Marking({ photo, area, set }: { photo: Photo; area: Area; set: (a: Area) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const from = useRef<{ x: number; y: number } | null>(null);
  const at = (e: PointerEvent) => {
    const r = box.current?.getBoundingClientRect();
    const share = (v: number, low: number, size: number) => Math.min(Math.max((v - low) / size, 0), 1);
    return r ? { x: share(e.clientX, r.left, r.width), y: share(e.clientY, r.top, r.height) } : { x: 0, y: 0 };
  };
  const draw = (e: PointerEvent) => {
    const a = from.current;
    if (!a) return;
    const b = at(e);
    set({ left: Math.min(a.x, b.x), top: Math.min(a.y, b.y), right: Math.max(a.x, b.x), bottom: Math.max(a.y, b.y) });
  };
  return (
    <Box
      ref={box}
      sx={{ position: "relative", touchAction: "none", cursor: "crosshair", border: "1px solid var(--ink)", lineHeight: 0 }}
      onPointerDown={(e) => {
        from.current = at(e);
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={draw}
      onPointerUp={(e) => {
        draw(e);
        from.current = null;
      }}
    >
      <img src={`/api/photos/${encodeURIComponent(photo.id)}/small`} alt="the photo; draw a frame around what shall be read" draggable={false} style={{ width: "100%", display: "block" }} />
      <Box
        sx={{ position: "absolute", left: `${100 * area.left}%`, top: `${100 * area.top}%`, width: `${100 * (area.right - area.left)}%`, height: `${100 * (area.bottom - area.top)}%`, border: "3px solid var(--tape)", boxShadow: "0 0 0 9999px rgba(20,22,40,.45)", pointerEvents: "none", clipPath: "none" }}
      />
    </Box>
  );
}

function lampOf(l: Schemas["Lamp"]): Omit<Schemas["Lamp"], "id"> {
  const { name, pitch_mm, lamp_mm, camera_mm, aperture_mm, mm_per_px, lens_px, gamma, scale } = l;
  return { name, pitch_mm, lamp_mm, camera_mm, aperture_mm, mm_per_px, lens_px, gamma, scale };
}

const printed = (sheet: string, words: string) => (
  <Button variant="link" href={`/api/print/${sheet}`} target="_blank">
    {words}
  </Button>
);

/** One photo: what was read from it, how it was taken, and whether it is taken at its word. */
export function PhotoDialog({ photo, person, close }: { photo: Photo; person: string; close: () => void }) {
  const changed = useChanged();
  const lamps = useLamps().data;
  const [shown, setShown] = useState<Photo>(photo);
  const [take, setTake] = useState<Take>(photo.take);
  const [marking, setMarking] = useState(false);
  const [striking, setStriking] = useState(false);
  const dirty = JSON.stringify(take) !== JSON.stringify(shown.take);
  const put = (more: Partial<Take>) => setTake((t) => ({ ...t, ...more }));
  const keep = async (p: Photo) => {
    setShown(p);
    setTake(p.take);
    setMarking(false);
    await changed("panel");
  };
  const read = useMutation({
    mutationFn: async () => {
      const { area, ...rest } = take;
      const part = area && (area.right - area.left < 0.02 || area.bottom - area.top < 0.02) ? undefined : area;
      const answer = await api.readPhoto(photo.id, { ...rest, ...(part ? { area: part } : {}) });
      if (photo.kind === "reflection") {
        const id = lamps?.lamps.find((l) => l.name === take.name)?.id ?? newId();
        await api.setLamp({ ...lampOf({ ...take, id }), id });
      }
      return answer;
    },
    onSuccess: async (p) => {
      await changed("lamps");
      await keep(p);
    },
  });
  const accept = useMutation({
    mutationFn: (yes: boolean) => api.acceptPhoto(photo.id, person, yes),
    onSuccess: async (p) => {
      await keep(p);
      if (p.accepted_at) close();
    },
  });
  const busy = read.isPending || accept.isPending;
  const can = !dirty && shown.reading !== undefined && !shown.struck_at;
  useKeys({ a: () => can && accept.mutate(!shown.accepted_at), r: () => !busy && read.mutate(), x: () => setStriking(true), m: () => setMarking(!marking) }, !striking, "dialog");
  const number = (label: string, unit: string, key: "pitch_mm" | "lamp_mm" | "camera_mm" | "aperture_mm" | "mm_per_px" | "lens_px" | "gamma", digits = 1) => (
    <NumberField label={label} unit={unit} value={take[key]} show={(v) => String(Number(v.toFixed(digits)))} keep={(v) => put({ [key]: v })} />
  );
  if (striking) return <StrikeDialog what={`photo ${photo.no}`} close={() => setStriking(false)} strike={async (reason) => { await keep(await api.strikePhoto(photo.id, reason)); close(); }} />;
  return (
    <Ask title={`Photo ${photo.no}, ${photo.after ? "after" : "before"} work`} wide={1040} close={close} leave>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1.5fr) minmax(0,1fr)" }, gap: 24, alignItems: "start" }}>
        <Box sx={{ display: "grid", gap: 8 }}>
          {shown.dropped ? (
            <p className="s">The file of this photo was deleted by the shop&apos;s rule.</p>
          ) : marking ? (
            <Marking photo={photo} area={take.area ?? whole} set={(area) => put({ area })} />
          ) : (
            <Box component="img" src={`/api/photos/${encodeURIComponent(photo.id)}/${shown.reading ? `drawn?of=${shown.reading.drawn}` : "small"}`} alt={shown.text} sx={{ width: "100%", border: "1px solid var(--ink)", display: "block" }} />
          )}
          <Box className="hints" sx={{ display: "flex", gap: 14, flexWrap: "wrap" }}>
            <Button variant="hint" onClick={() => setMarking(!marking)}>
              <span className="kc">M</span> {marking ? "see what was found" : "mark the part to read"}
            </Button>
            {take.area ? (
              <Button variant="hint" onClick={() => put({ area: whole })}>
                all of it
              </Button>
            ) : null}
            <Button variant="hint" onClick={() => setStriking(true)}>
              <span className="kc">X</span> strike out
            </Button>
          </Box>
        </Box>
        <Box sx={{ display: "grid", gap: 10 }}>
          <p className="n" style={{ fontSize: 26, lineHeight: "30px", fontWeight: 640, margin: 0 }}>
            {shown.head}
          </p>
          {shown.refused ? <Notice text={shown.refused} /> : <p style={{ margin: 0 }}>{shown.figures} {shown.text}</p>}
          {photo.kind === "dull" ? (
            <>
            {photo.section ? <p className="s" style={{ margin: 0 }}>Taken at its word, it counts in Level as a look at this section.</p> : null}
            <Choice label="What shines looks" value={take.shiny} options={[["brighter", "brighter"], ["darker", "darker than what is dull"]]} set={(shiny) => put({ shiny })} tall />
            </>
          ) : (
            <>
              <Pick label="lamp and camera" value={lamps?.lamps.find((l) => l.name === take.name)?.id ?? ""} set={(id) => { const l = lamps?.lamps.find((o) => o.id === id) ?? lamps?.usual; if (l) put(lampOf(l)); }}>
                <option value="">{lamps?.lamps.some((l) => l.name === take.name) ? "printed stripes, as is usual" : `${take.name}, not kept yet`}</option>
                {lamps?.lamps.map((l) => (
                  <option key={l.id} value={l.id}>
                    {l.name}
                  </option>
                ))}
              </Pick>
              <Field label="its name" value={take.name} most={60} onChange={(e) => put({ name: e.target.value })} />
              <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 10 }}>
                {number("pitch of the stripes", "mm", "pitch_mm")}
                {number("lamp to panel", "mm", "lamp_mm", 0)}
                {number("camera to panel", "mm", "camera_mm", 0)}
                {number("opening of the lens", "mm", "aperture_mm")}
              </Box>
              <Tick checked={take.scale} set={(scale) => put({ scale })}>
                the scale card lies on the panel: it tells the scale and the focus
              </Tick>
              {take.scale ? null : (
                <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 10 }}>
                  {number("mm of the panel a pixel", "mm", "mm_per_px", 4)}
                  {number("blur of the lens", "px", "lens_px", 2)}
                </Box>
              )}
              <p className="s" style={{ margin: 0 }}>
                To print: {printed("card.pdf", "scale card")}, {printed(`stripes.pdf?pitch_mm=${take.pitch_mm}`, "stripes")}; as SVG: {printed("card.svg", "card")}, {printed(`stripes.svg?pitch_mm=${take.pitch_mm}`, "stripes")}
              </p>
            </>
          )}
          {read.error || accept.error ? <Notice text={(read.error ?? accept.error)?.message ?? ""} /> : null}
        </Box>
      </Box>
      <Foot>
        <Button disabled={busy || shown.dropped || shown.struck_at !== undefined} variant={dirty || !shown.reading ? "tape" : "key"} onClick={() => read.mutate()}>
          {read.isPending ? "Reading" : "Read again"} <span className="kc">R</span>
        </Button>
        <Button variant={can && !shown.accepted_at ? "tape" : "quiet"} disabled={busy || !can} onClick={() => accept.mutate(!shown.accepted_at)}>
          {shown.accepted_at ? "Take that back" : "Take it at its word"} <span className="kc">A</span>
        </Button>
      </Foot>
    </Ask>
  );
}
