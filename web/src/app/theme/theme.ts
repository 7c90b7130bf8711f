import { createTheme, type Theme } from "@mui/material/styles";
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

/** Our own face on the component library: nearly square, flat, two families. */
export function themeOf(mode: Mode): Theme {
  const c = tokens.color[mode];
  return createTheme({
    palette: {
      mode: mode === "day" ? "light" : "dark",
      primary: { main: c.ink, contrastText: c.onKey },
      secondary: { main: c.tape, contrastText: c.onTape },
      background: { default: c.primer, paper: c.paper },
      text: { primary: c.ink, secondary: c.ink2, disabled: c.ink3 },
      divider: c.line,
    },
    shape: { borderRadius: 3 },
    typography: { fontFamily: text, fontSize: 15, button: { textTransform: "none", fontWeight: 620 } },
    components: {
      MuiButtonBase: { defaultProps: { disableRipple: true } },
      MuiDialog: {
        defaultProps: { transitionDuration: 0 },
        styleOverrides: {
          paper: {
            backgroundImage: "none",
            border: `1.5px solid ${c.ink}`,
            boxShadow: "0 2px 0 rgba(28,30,58,.18), 0 10px 28px rgba(28,30,58,.14)",
          },
        },
      },
      MuiBackdrop: { styleOverrides: { root: { backgroundColor: mode === "day" ? "rgba(222,229,225,.84)" : "rgba(10,10,19,.8)" }, invisible: { backgroundColor: "transparent" } } },
      MuiMenu: { defaultProps: { transitionDuration: 0 } },
      MuiOutlinedInput: {
        styleOverrides: {
          root: { backgroundColor: c.sheet, borderRadius: 2 },
          notchedOutline: { borderColor: c.lineStrong },
        },
      },
      MuiInputLabel: { styleOverrides: { root: { color: c.ink2 } } },
    },
  });
}
