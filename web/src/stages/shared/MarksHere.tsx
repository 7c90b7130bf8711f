import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { useKeys } from "../../app/keys";
import { Notice } from "../../ui/Notice";

/** The marks of the section in hand: what stands is cut before any machine. */
export function MarksHere({ here, panelId, person, work }: { here: Schemas["MarksHere"]; panelId: string; person: string; work?: (() => void) | undefined }) {
  const changed = useChanged();
  const { standing, head, text, more } = here;
  const gone = useMutation({
    mutationFn: async () => {
      for (const mark of standing) await api.closeMark(mark, { outcome: "gone", person });
    },
    onSettled: () => changed("panel"),
  });
  useKeys({ g: () => (standing.length > 0 && !gone.isPending ? gone.mutate() : undefined) });
  if (!head && !text && more === 0) return null;
  const look = `/panels/${encodeURIComponent(panelId)}/look`;
  return (
    <div className="markshere">
      {standing.length > 0 ? (
        <>
          <Box component="span" sx={{ flex: 1, minWidth: 150 }}>
            <span className="b">{head}</span> {text}
          </Box>
          {work ? (
            <Button onClick={work}>
              Work them <span className="kc">N</span>
            </Button>
          ) : null}
          <Button variant="quiet" onClick={() => gone.mutate()} disabled={gone.isPending}>
            All gone <span className="kc">G</span>
          </Button>
        </>
      ) : (
        <Box component="span" sx={{ flex: 1 }}>
          {text}
        </Box>
      )}
      <Button component={Link} to={look} variant="link">
        {more > 0 ? `${more} more in Look` : "in Look"}
      </Button>
      {gone.error ? <Notice text={gone.error.message} /> : null}
    </div>
  );
}
