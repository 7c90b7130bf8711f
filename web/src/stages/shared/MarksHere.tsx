import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, type Mark } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { useKeys } from "../../app/keys";
import { count } from "../../app/format";

/** The marks of the section in hand: what stands is cut before any machine. */
export function MarksHere({ marks, panelId, person, work }: { marks: Mark[]; panelId: string; person: string; work?: (() => void) | undefined }) {
  const queries = useQueryClient();
  const open = marks.filter((m) => m.outcome === "open");
  const proud = open.filter((m) => m.do === "spot" || m.do === "shave_block");
  const standing = proud.filter((m) => !m.ready_at);
  const soft = proud.find((m) => m.ready_at);
  const others = open.length - standing.length;
  const gone = useMutation({
    mutationFn: async () => {
      for (const m of standing) await api.closeMark(m.id, { outcome: "gone", person });
    },
    onSettled: () => queries.invalidateQueries(),
  });
  useKeys({ g: () => (standing.length > 0 && !gone.isPending ? gone.mutate() : undefined) });
  if (marks.length === 0) return null;
  const look = `/panels/${encodeURIComponent(panelId)}/look`;
  const names = [...new Set(standing.map((m) => m.name))].map((name) => count(standing.filter((m) => m.name === name).length, name)).join(", ");
  const waits = soft ? ` The ${soft.name} is ${soft.text.charAt(0).toLowerCase()}${soft.text.slice(1).split(". ")[0] ?? ""}.` : "";
  return (
    <div className="markshere">
      {standing.length > 0 ? (
        <>
          <span style={{ flex: 1, minWidth: 150 }}>
            <span className="b">{names} still {standing.length === 1 ? "stands" : "stand"} here.</span> Before any machine.{waits}
          </span>
          {work ? (
            <button type="button" className="key" onClick={work}>
              Work them <span className="kc">N</span>
            </button>
          ) : null}
          <button type="button" className="key q" onClick={() => gone.mutate()} disabled={gone.isPending}>
            All gone <span className="kc">G</span>
          </button>
        </>
      ) : (
        <span style={{ flex: 1 }}>
          {open.length === 0 ? `All ${marks.length} marks here are closed.` : soft ? "" : "Nothing stands above the paint here."}
          {waits}
        </span>
      )}
      <Link to={look} className="linkish">
        {others > 0 ? `${others} more in Look` : "in Look"}
      </Link>
      {gone.error ? <Notice text={gone.error.message} /> : null}
    </div>
  );
}
