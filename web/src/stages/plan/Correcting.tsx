import { Box, Button, Slider } from "@mui/material";
import type { Schemas } from "../../api/client";

const percent = (share: number) => `${Math.round(100 * share).toFixed(0)} %`;

interface Props {
  correct: Schemas["Correct"];
  /** The share under the thumb. */
  gone: number;
  move: (share: number) => void;
  ask: (share: number) => void;
  show: (ladder: string) => void;
  chosen: string;
}

/** How much of the swirls shall go, dragged, and the packages that an owner knows. */
export function Correcting({ correct, gone, move, ask, show, chosen }: Props) {
  return (
    <Box sx={{ flex: "none", padding: "8px 0 2px" }}>
      <Box sx={{ display: "flex", gap: "4px 18px", alignItems: "center", flexWrap: "wrap" }}>
        <Box component="span" id="gone-label" className="s">
          swirls to go <b className="n">{gone === 0 ? "gloss alone" : percent(gone)}</b>
        </Box>
        <Slider
          aria-labelledby="gone-label"
          sx={{ flex: "1 1 160px", minWidth: 120, color: "var(--ink)" }}
          value={Math.round(100 * gone)}
          min={0}
          max={Math.round(100 * correct.most)}
          marks={[0, 50, 80, 95].map((value) => ({ value }))}
          valueLabelDisplay="auto"
          valueLabelFormat={(v) => `${v} %`}
          getAriaValueText={(v) => (v === 0 ? "gloss alone" : `${v} %`)}
          onKeyDown={(e) => e.stopPropagation()}
          onChange={(_, v) => move((v as number) / 100)}
          onChangeCommitted={(_, v) => ask((v as number) / 100)}
        />
      </Box>
      <Box component="ul" aria-label="Packages" sx={{ listStyle: "none", margin: 0, padding: 0, display: "grid", gap: 4 }}>
        {correct.packages.map((p) => (
          <li key={p.name}>
            <Button variant="row" aria-pressed={p.ladder === chosen} sx={{ width: "100%", minHeight: 48, textAlign: "left", display: "block", borderBottom: "1px solid var(--line)", padding: "3px 6px", "&[aria-pressed=true]": { background: "var(--sheet)" } }} onClick={() => show(p.ladder)}>
              <b>{p.title}</b>{" "}
              <span className="s">{p.text}</span>
            </Button>
          </li>
        ))}
      </Box>
      {correct.parts.map((text) => (
        <Box key={text} component="p" className="s" sx={{ paddingTop: 4 }}>
          {text}
        </Box>
      ))}
    </Box>
  );
}
