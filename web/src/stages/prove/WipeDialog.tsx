import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { api, newId, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { useKeys } from "../../app/keys";
import { Ask, Foot } from "../../ui/Ask";
import { Notice } from "../../ui/Notice";

/** What to wipe and look at, section by section, the likeliest scratch first. */
export function WipeDialog({ proof, person, close }: { proof: Schemas["PanelProof"]; person: string; close: () => void }) {
  const changed = useChanged();
  const say = useMutation({
    mutationFn: (p: { kind: "wiped" | "scratched"; section?: string }) => api.addProof(proof.panel.id, { id: newId(), person, ...p }),
    onSuccess: () => changed("panel"),
  });
  const rest = proof.wipes.filter((w) => !w.seen);
  const all = () => say.mutate({ kind: "wiped" });
  useKeys({ n: all }, rest.length > 0, "dialog");
  return (
    <Ask title="Wipe the oils off, then look" wide={780} close={close} leave>
      <p style={{ margin: 0 }}>
        Polish fills fine scratches with oil: they come back with the first wash. Panel wipe over the whole section, let it dry, lamp from several sides. Gloves, fresh air, no sparks, rags into a closed metal bin; the product&apos;s safety sheet decides.
      </p>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: "none" }}>
        {proof.wipes.map((w) => (
          <Box component="li" key={w.section} sx={{ borderTop: "1px solid var(--line)", py: 8, display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) auto" }, gap: "6px 16px", alignItems: "center" }}>
            <span>
              <b>{w.name}</b>
              {w.likely ? <b> · scratches are likely</b> : null}
              <br />
              <span className="s">{w.seen_text ? `${w.seen_text}. ` : ""}{w.text}</span>
            </span>
            <Box sx={{ display: "flex", gap: 8 }}>
              <Button aria-label={`${w.name}: nothing seen`} aria-pressed={w.seen === "wiped"} disabled={say.isPending} onClick={() => say.mutate({ kind: "wiped", section: w.section })}>
                {w.seen === "wiped" ? "✓ " : ""}nothing seen
              </Button>
              <Button aria-label={`${w.name}: scratches seen`} aria-pressed={w.seen === "scratched"} disabled={say.isPending} onClick={() => say.mutate({ kind: "scratched", section: w.section })}>
                {w.seen === "scratched" ? "✓ " : ""}scratches
              </Button>
            </Box>
          </Box>
        ))}
      </Box>
      {say.error ? <Notice text={say.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={close}>
          Done
        </Button>
        <Button variant="tape" disabled={rest.length === 0 || say.isPending} onClick={all}>
          All wiped, nothing seen <span className="kc">N</span>
        </Button>
      </Foot>
    </Ask>
  );
}
