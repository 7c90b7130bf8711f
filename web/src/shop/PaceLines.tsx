import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { api, type Schemas } from "../api/client";
import { useChanged } from "../api/queries";
import { Notice } from "../ui/Notice";

/** How long passes take here by the clock, and whether plans should be made with that. */
export function PaceLines({ paces }: { paces: Schemas["ToolPace"][] }) {
  const changed = useChanged();
  const take = useMutation({ mutationFn: (p: Schemas["ToolPace"]) => api.setConstant({ key: p.key, value: p.factor }), onSettled: () => changed("house") });
  return (
    <section aria-label="Pace">
      <h2 className="heading t">
        Pace <span className="s">by the clock in Level and by what was said; plans that are accepted keep their minutes</span>
      </h2>
      {paces.map((p) => (
        <Box key={p.key} sx={{ display: "flex", flexWrap: "wrap", gap: "6px 16px", alignItems: "center", minHeight: 56 }}>
          <span className={p.pieces > 0 ? "" : "s"}>{p.text}</span>
          {p.differs ? (
            <Button variant="key" disabled={take.isPending} onClick={() => take.mutate(p)}>
              Plan with {p.factor.toFixed(2)} from now on
            </Button>
          ) : null}
        </Box>
      ))}
      {take.error ? <Notice text={take.error.message} /> : null}
    </section>
  );
}
