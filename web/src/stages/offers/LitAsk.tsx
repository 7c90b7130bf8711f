import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { api, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { useKeys } from "../../app/keys";
import { Ask } from "../../ui/Ask";
import { Notice } from "../../ui/Notice";

const ways: readonly (readonly [Schemas["PanelLight"], string, string])[] = [
  ["by_place", "By where it is", "roof and lids face up, doors are sides, sills and bumpers lie low"],
  ["faces_up", "Faces up", "lamps and sky stand in it"],
  ["on_side", "A side", "seen at eye height, in passing"],
  ["lies_low", "Lies low", "nobody bends down to it"],
  ["covered", "Covered", "by a moulding, cladding or trim"],
];

/** Says how a panel is seen, which weighs what hours on it gain. */
export function LitAsk({ car, panel, close }: { car: string; panel: Schemas["BudgetPanel"]; close: () => void }) {
  const changed = useChanged();
  const say = useMutation({
    mutationFn: (light: Schemas["PanelLight"]) => api.changePanels(car, [panel.key], { light }),
    onSuccess: async () => {
      await changed("panel");
      close();
    },
  });
  useKeys(Object.fromEntries(ways.map(([light], i) => [String(i + 1), () => say.mutate(light)])), !say.isPending, "dialog");
  return (
    <Ask title={`How is the ${panel.name} seen?`} close={close} leave>
      {ways.map(([light, name, why], i) => (
        <Button key={light} autoFocus={light === panel.light} aria-pressed={light === panel.light} className={light === panel.light ? "on" : ""} disabled={say.isPending} sx={{ minHeight: 56, justifyContent: "space-between", textAlign: "left" }} onClick={() => say.mutate(light)}>
          <span>
            {light === panel.light ? "✓ " : ""}
            {name}
            <br />
            <span className="s sub">{why}</span>
          </span>
          <span className="kc">{i + 1}</span>
        </Button>
      ))}
      <p className="s" style={{ margin: 0 }}>
        How much each counts is a rule of the shelf.
      </p>
      {say.error ? <Notice text={say.error.message} /> : null}
    </Ask>
  );
}
