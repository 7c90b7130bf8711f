import { Box, Button } from "@mui/material";
import { useUnits } from "../../app/units";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Panel, type Point, type Zone } from "../../api/client";
import { PanelView } from "../../drawing/PanelView";
import { pathOf } from "../../drawing/geometry";
import { Choice } from "../../ui/Choice";
import { NumberField } from "../../ui/NumberField";
import { useChanged } from "../../api/queries";
import { Ask } from "../../ui/Ask";
import { Notice } from "../../ui/Notice";
import { count } from "../../app/format";

const origins = [
  ["here", "sprayed here"],
  ["elsewhere", "elsewhere"],
  ["factory", "factory"],
  ["unknown", "unknown"],
] as const;

/** Parts of a panel with a history of their own: drawn corner by corner. */
export function ZonesDialog({ panel, zones, close }: { panel: Panel; zones: Zone[]; close: () => void }) {
  const u = useUnits();
  const changed = useChanged();
  const [all, setAll] = useState(zones);
  const [corners, setCorners] = useState<Point[]>([]);
  const [origin, setOrigin] = useState<Zone["origin"]>("here");
  const [coats, setCoats] = useState(2);
  const keep = useMutation({
    mutationFn: (list: Zone[]) => api.setZones(panel.id, list),
    onSuccess: async (kept) => {
      setAll(kept.zones);
      await changed("panel");
    },
  });
  const add = () => {
    const name = `zone ${all.length + 1}`;
    keep.mutate([...all, { name, outline: corners, origin, layers: "clear", coats: origin === "factory" || origin === "unknown" ? 0 : coats }], { onSuccess: () => setCorners([]) });
  };
  return (
    <Ask title={`Blends and repairs on the ${panel.name}`} wide={1000} leave close={close}>
        <p className="s">Tap the corners of a part that was finished differently from the rest. It gets its own clear and its own floor, and the film may step at its edge.</p>
        <Box sx={{ display: "flex", gap: 24, height: 420 }}>
          <Box sx={{ flex: 1, display: "flex", minWidth: 0 }}>
            <PanelView
              u={u}
              panel={panel}
              label={`${panel.name}: tap the corners of a zone`}
              pick={(q) => setCorners((c) => [...c, { x: Math.round(q.x), y: Math.round(q.y) }])}
              inside={() => all.map((z) => <path key={z.name} d={pathOf(z.outline)} fill="var(--film6)" fillOpacity=".5" stroke="var(--ink)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />)}
              over={(k) => (
                <g pointerEvents="none">
                  {corners.length > 1 ? <path d={pathOf(corners, corners.length > 2)} fill="var(--tape)" fillOpacity=".45" stroke="var(--ink)" strokeWidth="2" vectorEffect="non-scaling-stroke" /> : null}
                  {corners.map((c, i) => (
                    <circle key={i} cx={c.x} cy={c.y} r={6 * k} fill="var(--tape)" stroke="var(--ink)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />
                  ))}
                </g>
              )}
            />
          </Box>
          <Box sx={{ width: 330, display: "flex", flexDirection: "column", gap: 12 }}>
            <Choice label="its finish comes from" value={origin} options={origins} set={setOrigin} />
            {origin === "here" || origin === "elsewhere" ? <NumberField label="coats of clear" unit="coats" value={coats} show={String} keep={(v) => setCoats(Math.round(v))} /> : null}
            <Button variant="tape" disabled={corners.length < 3 || keep.isPending} onClick={add}>
              {corners.length < 3 ? "Tap three corners or more" : `Keep this zone of ${corners.length} corners`}
            </Button>
            <Button variant="quiet" disabled={corners.length === 0} onClick={() => setCorners((c) => c.slice(0, -1))}>
              Take the last corner back
            </Button>
            {keep.error ? <Notice text={keep.error.message} /> : null}
            <Box component="ul" sx={{ margin: 0, padding: 0, listStyle: "none" }} aria-label="Zones">
              {all.map((z) => (
                <Box component="li" key={z.name} sx={{ display: "flex", justifyContent: "space-between", borderTop: "1px solid var(--line)", padding: "8px 0" }}>
                  <span>
                    {z.name}: {origins.find(([o]) => o === z.origin)?.[1]}
                    {z.coats ? `, ${count(z.coats, "coat")}` : ""}
                  </span>
                  <Button variant="link" onClick={() => keep.mutate(all.filter((o) => o !== z))}>
                    take away
                  </Button>
                </Box>
              ))}
            </Box>
          </Box>
        </Box>
    </Ask>
  );
}
