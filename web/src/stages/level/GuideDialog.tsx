import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Notice } from "../../ui/Notice";
import { useKeys } from "../../app/keys";
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
  const changed = useChanged();
  const [at, setAt] = useState(guides[0]?.mark ?? "");
  const i = Math.max(guides.findIndex((g) => g.mark === at), 0);
  const g = guides[i];
  const [closed, setClosed] = useState("");
  const gone = useMutation({
    mutationFn: (mark: string) => api.closeMark(mark, { outcome: "gone", person }),
    onSuccess: (_, mark) => setClosed(mark),
    onSettled: () => changed("panel"),
  });
  const open = useMutation({
    mutationFn: (mark: string) => api.closeMark(mark, { outcome: "open", person }),
    onSuccess: () => setClosed(""),
    onSettled: () => changed("panel"),
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
  useKeys(keys, true, "dialog");
  return (
    <Ask
      title={g ? `The ${g.name}: ${g.headline}` : "Nothing stands above the paint here"}
      wide={760}
      close={close}
    >
        {guides.length > most ? (
          <Box sx={{ display: "flex", gap: 14, alignItems: "center" }}>
            <span className="s">
              {i + 1} of {guides.length}
            </span>
            <Button variant="quiet" onClick={next}>
              Next <span className="kc">]</span>
            </Button>
          </Box>
        ) : guides.length > 1 ? (
          <Choice label="Which mark" silent tall value={g?.mark ?? ""} options={guides.map((o, n) => [o.mark, `${o.name} ${n + 1}`] as const)} set={setAt} />
        ) : null}
        {g ? (
          <Box sx={{ display: "flex", gap: 24, alignItems: "flex-start" }}>
            {kind ? (
              <Box sx={{ minWidth: 150 }}>
                <Box className="passes" data-testid="strokes-left" sx={{ fontSize: 120, lineHeight: "100px", fontWeight: 640 }}>
                  {kind === "shave" ? g.strokes_left : g.passes_left}
                </Box>
                <Box className="t" sx={{ fontSize: 22, lineHeight: "26px", marginTop: 8 }}>
                  {kind === "shave" ? "strokes left" : "passes left"}
                </Box>
              </Box>
            ) : null}
            <Box sx={{ display: "grid", gap: 8, fontSize: 17, lineHeight: "24px" }}>
              <p>{g.text}</p>
              {g.stage === "soft" || g.stage === "file" ? null : (
                <p className="s">
                  {count(g.shaved, "stroke")} of the blade and {count(g.blocked, "pass")} of the block made.
                </p>
              )}
              <Box component="p" className="xs" sx={{ fontSize: 13 }}>
                {g.caution}
              </Box>
            </Box>
          </Box>
        ) : null}
        {fault ? <Notice text={fault.message} /> : null}
        <Foot>
          <Button variant={g ? "quiet" : "tape"} sx={{ minHeight: 64 }} autoFocus={!g} onClick={close}>
            Close
          </Button>
          {closed || (stroke && g && g.shaved + g.blocked > 0) ? (
            <Button variant="quiet" sx={{ minHeight: 64 }} disabled={open.isPending} onClick={back}>
              {closed ? "Not gone after all" : "Undo stroke"} <span className="kc">U</span>
            </Button>
          ) : null}
          {g && g.stage !== "soft" ? (
            <Button variant={kind ? "key" : "tape"} sx={{ minHeight: 64 }} disabled={gone.isPending} onClick={() => gone.mutate(g.mark)}>
              It is gone <span className="kc">G</span>
            </Button>
          ) : null}
          {kind && stroke ? (
            <Button variant="tape" sx={{ minHeight: 64 }} autoFocus onPointerDown={one} onKeyDown={(e) => (e.key === "Enter" ? one() : undefined)}>
              {kind === "shave" ? "One stroke, whole length" : "One pass of the block"} <span className="kc">Space</span>
            </Button>
          ) : null}
        </Foot>
    </Ask>
  );
}
