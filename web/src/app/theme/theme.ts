import { createTheme, type Theme } from "@mui/material/styles";
import { controls } from "./controls";
import tokens from "./tokens.json";

export type Mode = "day" | "booth";

export const text = '"Hanken Grotesk Variable", "Hanken Grotesk", sans-serif';
export const display = '"Archivo Variable", "Archivo", sans-serif';

/** The tokens of a theme as CSS custom properties. */
export function properties(mode: Mode): Record<string, string> {
  const out: Record<string, string> = { colorScheme: mode === "booth" ? "dark" : "light" };
  for (const [name, value] of Object.entries(tokens.color[mode])) out[`--${name}`] = value;
  tokens.ramp[mode].film.forEach((value, i) => (out[`--film${i}`] = value));
  return out;
}

/** Our own face on the component library: nearly square, flat, two families. Lengths in sx are pixels. */
export function themeOf(mode: Mode): Theme {
  const c = tokens.color[mode];
  return createTheme({
    spacing: 1,
    palette: {
      mode: mode === "day" ? "light" : "dark",
      primary: { main: c.ink, contrastText: c.onKey },
      secondary: { main: c.tape, contrastText: c.onTape },
      background: { default: c.primer, paper: c.paper },
      text: { primary: c.ink, secondary: c.ink2, disabled: c.ink3 },
      divider: c.line,
    },
    shape: { borderRadius: 3 },
    breakpoints: { values: { xs: 0, sm: 600, md: 901, lg: 1181, xl: 1536 } },
    typography: { fontFamily: text, fontSize: 15, button: { textTransform: "none", fontWeight: 620 } },
    components: controls(mode),
  });
}
