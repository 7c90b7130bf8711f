import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { api, type Schemas } from "../api/client";
import { useChanged, usePhotosKept } from "../api/queries";
import { Notice } from "../ui/Notice";
import { NumberField } from "../ui/NumberField";
import { count } from "../app/format";

/** How long the files of photos are kept, and what they take. */
export function PhotoRule() {
  const changed = useChanged();
  const kept = usePhotosKept().data;
  const set = useMutation({ mutationFn: (rule: Schemas["PhotoRule"]) => api.setPhotoRule(rule), onSettled: () => changed("lamps") });
  const drop = useMutation({ mutationFn: api.dropPhotos, onSettled: () => changed("lamps") });
  if (!kept) return null;
  const fault = set.error ?? drop.error;
  return (
    <Box component="section" aria-label="Photos" sx={{ mt: 16, maxWidth: 560, display: "grid", gap: 8 }}>
      <h3 className="t" style={{ margin: 0, fontSize: 16 }}>
        Photos
      </h3>
      <p className="s" style={{ margin: 0 }}>
        {kept.text}
      </p>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr auto", gap: 10, alignItems: "end" }}>
        <NumberField label="after hand over, 0 for good" unit="days" value={kept.rule.after_hand_over_days} show={String} keep={(v) => set.mutate({ ...kept.rule, after_hand_over_days: Math.round(v) })} />
        <NumberField label="struck out ones, 0 for good" unit="days" value={kept.rule.struck_days} show={String} keep={(v) => set.mutate({ ...kept.rule, struck_days: Math.round(v) })} />
        <Button variant="quiet" disabled={drop.isPending} onClick={() => drop.mutate()}>
          Delete what may go
        </Button>
      </Box>
      {drop.data ? <p className="s" role="status">{count(drop.data.dropped, "photo")} deleted.</p> : null}
      {fault ? <Notice text={fault.message} /> : null}
    </Box>
  );
}
