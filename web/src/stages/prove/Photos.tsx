import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState, type DragEvent, type RefObject } from "react";
import { useSearchParams } from "react-router";
import { api, newId, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { queue } from "../../outbox/queue";
import type { useOutbox } from "../../outbox/useOutbox";
import { Pick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { count } from "../../app/format";

type Photo = Schemas["ProofPhoto"];
type Kind = Schemas["PhotoKind"];

/** How a photo stands, in a word. */
function stand(p: Photo): string {
  if (p.struck_at) return "struck out";
  if (!p.reading) return "not read";
  const figure = p.head.replace(" peel", "");
  return p.accepted_at ? `✓ ${figure}` : `${figure} ?`;
}

interface PhotosProps {
  proof: Schemas["PanelProof"];
  camera: Schemas["Camera"] | undefined;
  person: string;
  waiting: ReturnType<typeof useOutbox>["proofs"];
  /** Photos that were not taken, and why; heard forgets them. */
  refused: readonly string[];
  heard: () => void;
  chosen: string;
  choose: (p: Photo) => void;
  /** Has files chosen when it is clicked. */
  input: RefObject<HTMLInputElement | null>;
}

/** The photos of a panel, and how new ones come: chosen, taken with this device, dropped here, pulled from the camera. */
export function Photos({ proof, camera, person, waiting, refused, heard, chosen, choose, input }: PhotosProps) {
  const changed = useChanged();
  // Level sends here for the photo of a section.
  const [asked] = useSearchParams();
  const [section, setSection] = useState(asked.get("section") ?? "");
  const [kind, setKind] = useState<Kind>(section ? "dull" : "reflection");
  const [over, setOver] = useState(false);
  const send = async (files: Iterable<File>) => {
    heard();
    const sent = [...files].map((file) => queue.put({ what: "proof", id: newId(), panel: proof.panel.id, made: Date.now(), file, ask: { kind, person, ...(section ? { section } : {}) } }));
    await Promise.all(sent);
    await changed("panel");
  };
  const pull = useMutation({
    mutationFn: () => api.pullPhoto(proof.panel.id, { id: newId(), person, kind, ...(section ? { section } : {}) }),
    onSuccess: async (p) => {
      await changed("panel");
      choose(p);
    },
  });
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    void send(e.dataTransfer.files);
  };
  return (
    <section aria-label="Photos" onDragOver={(e) => { e.preventDefault(); setOver(true); }} onDragLeave={() => setOver(false)} onDrop={drop} style={over ? { outline: "3px dashed var(--focus)" } : {}}>
      <div className="photos">
        <div className="thumbs">
        {[...proof.photos].reverse().map((p) => (
          <Button key={p.id} variant="row" className={`thumb${p.struck_at ? " struck" : ""}`} aria-pressed={p.id === chosen} aria-label={`photo ${p.no}, ${p.after ? "after" : "before"}, ${p.kind === "dull" ? "sanded" : "lamps"}: ${stand(p)}`} onClick={() => choose(p)}>
            {p.dropped ? <span className="none" /> : <img src={`/api/photos/${encodeURIComponent(p.id)}/small`} alt="" loading="lazy" />}
            {p.kind === "dull" ? "sanded" : p.after ? "after" : "before"}
            <br />
            <b>{stand(p)}</b>
          </Button>
        ))}
        {waiting.map((w, i) => (
          <div key={w.id} className="s" role="status" style={{ alignSelf: "center", width: 92 }}>
            photo {i + 1} of {count(waiting.length, "photo")} {Number.isFinite(w.no) ? "kept here, on its way" : "being written down"}
          </div>
        ))}
        </div>
        <input
          ref={input}
          type="file"
          accept="image/jpeg,image/png"
          multiple
          hidden
          aria-label="Photos of the panel"
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            e.target.value = "";
            void send(files);
          }}
        />
        <div className="takes">
          <Button onClick={() => input.current?.click()}>
            <span>
              New photos
              <br />
              <span className="s sub">take, choose, drop</span>
            </span>
            <span className="kc">V</span>
          </Button>
          {camera?.here ? (
            <Button disabled={pull.isPending} onClick={() => pull.mutate()}>
              <span>
                {pull.isPending ? "It takes one" : "Camera"}
                <br />
                <span className="s sub">pull one</span>
              </span>
            </Button>
          ) : null}
          <span style={{ width: 138 }}>
            <Pick label="they show" value={kind} set={(v) => setKind(v as Kind)}>
              <option value="reflection">lamps, glossy</option>
              <option value="dull">sanded, dry</option>
            </Pick>
          </span>
          {kind === "dull" ? (
            <span style={{ width: 110 }}>
              <Pick label="section" value={section} set={setSection}>
                <option value="">not said</option>
                {proof.sections.map((s) => (
                  <option key={s.key} value={s.key}>
                    {s.name}
                  </option>
                ))}
              </Pick>
            </span>
          ) : null}
        </div>
      </div>
      {refused.length > 0 ? <Notice>{refused.map((text) => <p key={text} style={{ margin: 0 }}>{text}</p>)}</Notice> : null}
      {pull.error ? <Notice text={pull.error.message} /> : null}
    </section>
  );
}
