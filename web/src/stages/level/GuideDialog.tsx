import { Dialog } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { keyName } from "../../app/keys";
import { count } from "../../app/format";

type Guide = Schemas["Guide"];

/** More marks than this are not listed side by side. */
const most = 6;

interface GuideProps {
  guides: Guide[];
  person: string;
  /** One stroke of the blade or one pass of the block; none where Level cannot log. */
  stroke: ((kind: "shave" | "block", mark: string) => void) | undefined;
  undo: () => void;
  close: () => void;
}

/** The runs and nibs of a section, one after the other, each a small job. */
export function GuideDialog({ guides, person, stroke, undo, close }: GuideProps) {
  const queries = useQueryClient();
  const [at, setAt] = useState(guides[0]?.mark ?? "");
  const i = Math.max(guides.findIndex((g) => g.mark === at), 0);
  const g = guides[i];
  const [closed, setClosed] = useState("");
  const gone = useMutation({
    mutationFn: (mark: string) => api.closeMark(mark, { outcome: "gone", person }),
    onSuccess: (_, mark) => setClosed(mark),
    onSettled: () => queries.invalidateQueries(),
  });
  const open = useMutation({
    mutationFn: (mark: string) => api.closeMark(mark, { outcome: "open", person }),
    onSuccess: () => setClosed(""),
    onSettled: () => queries.invalidateQueries(),
  });
  const back = () => (closed ? open.mutate(closed) : undo());
  const fault = gone.error ?? open.error;
  const kind = g?.stage === "shave" ? "shave" : g?.stage === "block" ? "block" : undefined;
  const one = () => {
    if (!kind || !g || !stroke) return;
    setClosed("");
    stroke(kind, g.mark);
  };
  const next = () => setAt(guides[(i + 1) % guides.length]?.mark ?? "");
  const keys: Record<string, () => void> = {
    " ": one,
    u: back,
    g: () => (g && g.stage !== "soft" ? gone.mutate(g.mark) : undefined),
    "]": next,
  };
  return (
    <Dialog
      open
      onClose={close}
      aria-labelledby="guide"
      maxWidth={false}
      onKeyDown={(event) => {
        const act = keys[keyName(event)];
        if (!act || event.repeat) return;
        event.preventDefault();
        act();
      }}
    >
      <div style={{ padding: "24px 28px", width: 760, maxWidth: "100%", display: "grid", gap: 14 }}>
        <h2 id="guide" className="t" style={{ fontSize: 24, lineHeight: "30px" }}>
          {g ? `The ${g.name}: ${g.headline}` : "Nothing stands above the paint here"}
        </h2>
        {guides.length > most ? (
          <div style={{ display: "flex", gap: 14, alignItems: "center" }}>
            <span className="s">
              {i + 1} of {guides.length}
            </span>
            <button type="button" className="key q" onClick={next}>
              Next <span className="kc">]</span>
            </button>
          </div>
        ) : guides.length > 1 ? (
          <div className="one" role="group" aria-label="Which mark">
            {guides.map((o, n) => (
              <button key={o.mark} type="button" aria-pressed={o.mark === g?.mark} style={{ height: 48 }} onClick={() => setAt(o.mark)}>
                {o.name} {n + 1}
              </button>
            ))}
          </div>
        ) : null}
        {g ? (
          <div style={{ display: "flex", gap: 24, alignItems: "flex-start" }}>
            {kind ? (
              <div style={{ minWidth: 150 }}>
                <div className="passes" data-testid="strokes-left" style={{ fontSize: 120, lineHeight: "100px", fontWeight: 640 }}>
                  {kind === "shave" ? g.strokes_left : g.passes_left}
                </div>
                <div className="t" style={{ fontSize: 22, lineHeight: "26px", marginTop: 8 }}>
                  {kind === "shave" ? "strokes left" : "passes left"}
                </div>
              </div>
            ) : null}
            <div style={{ display: "grid", gap: 8, fontSize: 17, lineHeight: "24px" }}>
              <p>{g.text}</p>
              {g.stage === "soft" || g.stage === "file" ? null : (
                <p className="s">
                  {count(g.shaved, "stroke")} of the blade and {count(g.blocked, "pass")} of the block made.
                </p>
              )}
              <p className="xs" style={{ fontSize: 13 }}>
                {g.caution}
              </p>
            </div>
          </div>
        ) : null}
        {fault ? <Notice text={fault.message} /> : null}
        <div style={{ display: "flex", flexWrap: "wrap", gap: 10, justifyContent: "flex-end" }}>
          <button type="button" className="key q" style={{ minHeight: 64 }} autoFocus={!g} onClick={close}>
            Close
          </button>
          {closed || (stroke && g && g.shaved + g.blocked > 0) ? (
            <button type="button" className="key q" style={{ minHeight: 64 }} disabled={open.isPending} onClick={back}>
              {closed ? "Not gone after all" : "Undo stroke"} <span className="kc">U</span>
            </button>
          ) : null}
          {g && g.stage !== "soft" ? (
            <button type="button" className={`key ${kind ? "" : "tape"}`} style={{ minHeight: 64 }} disabled={gone.isPending} onClick={() => gone.mutate(g.mark)}>
              It is gone <span className="kc">G</span>
            </button>
          ) : null}
          {kind && stroke ? (
            <button type="button" className="key tape" style={{ minHeight: 64 }} autoFocus onPointerDown={one} onKeyDown={(e) => (e.key === "Enter" ? one() : undefined)}>
              {kind === "shave" ? "One stroke, whole length" : "One pass of the block"} <span className="kc">Space</span>
            </button>
          ) : null}
        </div>
      </div>
    </Dialog>
  );
}
