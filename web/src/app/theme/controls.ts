import type { Components, Theme } from "@mui/material/styles";
import type { Mode } from "./theme";
import tokens from "./tokens.json";

declare module "@mui/material/Button" {
  interface ButtonPropsVariantOverrides {
    /** A key cap: what may be done. */
    key: true;
    /** The one key that is done next, in tape. */
    tape: true;
    /** A key beside the work: leave, take back. */
    quiet: true;
    /** The other way round: ends the work on the panel. */
    dark: true;
    /** Words within a sentence. */
    link: true;
    /** A whole row of a list. */
    row: true;
    /** A word with its key, under a drawing. */
    hint: true;
    text: false;
    outlined: false;
    contained: false;
  }
}
declare module "@mui/material/Table" {
  interface TableOwnProps {
    /** Lines of a log, with room for a finger. */
    wide?: boolean;
  }
}

const numeral = { fontFamily: '"Archivo Variable", sans-serif', fontStretch: "112%", fontFeatureSettings: '"tnum"', fontWeight: 600 };
const cap = { borderRadius: 6, border: "1.5px solid var(--ink)", background: "var(--paper)", color: "var(--ink)", boxShadow: "0 2px 0 rgba(28,30,58,.18)", fontWeight: 620, fontSize: 15, lineHeight: "21px", gap: 10, minHeight: 48, padding: "0 14px" };
/** A tablet held upright, and smaller. */
const narrow = "@media (max-width:1180px)";
const pressed = { transform: "translateY(1px)", boxShadow: "0 1px 0 rgba(28,30,58,.18)" };
const bare = { minWidth: 0, padding: 0, borderRadius: 0, textAlign: "left", lineHeight: "inherit", fontSize: "inherit", fontWeight: "inherit", fontFamily: "inherit", "&:hover": { backgroundColor: "transparent" } } as const;

/** What the library's controls look like here. */
export function controls(mode: Mode): Components<Theme> {
  const c = tokens.color[mode];
  const focus = { outline: "3px solid var(--focus)", outlineOffset: 2 };
  const field = {
    backgroundColor: "var(--sheet)",
    color: "var(--ink)",
    borderRadius: 3,
    minHeight: 44,
    "& .MuiOutlinedInput-notchedOutline": { border: "1.5px solid var(--lineStrong)" },
    "&:hover .MuiOutlinedInput-notchedOutline": { borderColor: "var(--ink)" },
    "&.Mui-focused": { ...focus, outlineOffset: 1 },
    "&.Mui-focused .MuiOutlinedInput-notchedOutline": { border: "1.5px solid var(--ink)" },
  };
  return {
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiButton: {
      defaultProps: { variant: "key", disableElevation: true },
      styleOverrides: {
        root: {
          letterSpacing: 0,
          minWidth: 0,
          touchAction: "manipulation",
          color: "var(--ink)",
          "&.Mui-focusVisible, &:focus-visible": focus,
          variants: [
            { props: { variant: "key" }, style: { ...cap, "& .sub": { color: "var(--ink2)" }, "&:hover": { background: "var(--sheet)" }, "&:active": pressed, "&.Mui-disabled": { color: "var(--ink)", opacity: 0.5, boxShadow: "none" } } },
            {
              props: { variant: "tape" },
              style: { ...cap, background: "var(--tape)", color: "var(--onTape)", "& .kc, & .sub": { borderColor: "var(--onTape)", color: "var(--onTape)" }, "&:hover": { background: "var(--tapeDeep)" }, "&:active": pressed, "&.Mui-disabled": { color: "var(--onTape)", opacity: 0.5, boxShadow: "none" } },
            },
            { props: { variant: "quiet" }, style: { ...cap, borderColor: "var(--lineStrong)", boxShadow: "none", background: "transparent", "&:hover": { background: "var(--sheet)" }, "&.Mui-disabled": { color: "var(--ink)", opacity: 0.5 } } },
            { props: { variant: "dark" }, style: { ...cap, background: "var(--key)", color: "var(--onKey)", "& .kc": { borderColor: "var(--onKey)", color: "var(--onKey)" }, "&:hover": { background: "var(--key)" }, "&:active": pressed } },
            { props: { variant: "link" }, style: { ...bare, fontWeight: 600, color: "var(--ink)", textDecoration: "underline 1.5px var(--lineStrong)", textUnderlineOffset: 3, verticalAlign: "baseline", display: "inline", "&:hover": { textDecoration: "underline 1.5px var(--ink)", backgroundColor: "transparent" } } },
            { props: { variant: "row" }, style: { ...bare, color: "inherit", display: "block", justifyContent: "flex-start" } },
            { props: { variant: "hint" }, style: { ...bare, fontFamily: "inherit", fontSize: 14, lineHeight: "18px", fontWeight: 450, gap: 6, padding: "2px 0", minHeight: 28, color: "var(--ink2)", "&.Mui-disabled": { opacity: 0.5, color: "var(--ink2)" } } },
          ],
        },
      },
    },
    MuiToggleButtonGroup: { styleOverrides: { root: { display: "flex", flexWrap: "nowrap", borderBottom: "1px solid var(--lineStrong)", borderRadius: 0 } } },
    MuiToggleButton: {
      styleOverrides: {
        root: {
          flex: "1 1 auto",
          border: 0,
          borderRadius: "0 !important",
          padding: "0 6px",
          minWidth: 0,
          minHeight: 36,
          fontSize: 13.5,
          [narrow]: { padding: "0 4px", fontSize: 13 },
          lineHeight: "17px",
          fontWeight: 400,
          letterSpacing: 0,
          textTransform: "none",
          color: "var(--ink2)",
          whiteSpace: "nowrap",
          "& + &": { borderLeft: "1px solid var(--line) !important", marginLeft: "0 !important" },
          "&:hover": { backgroundColor: "var(--sheet)" },
          "&.Mui-focusVisible": { ...focus, outlineOffset: -2 },
          "&.Mui-selected, &.Mui-selected:hover": { backgroundColor: "var(--sheet)", color: "var(--ink)", fontWeight: 650, boxShadow: "inset 0 -3px 0 var(--ink)" },
        },
      },
    },
    MuiTabs: { styleOverrides: { root: { minHeight: 36, borderBottom: "1px solid var(--lineStrong)" }, indicator: { height: 3, backgroundColor: "var(--ink)" } } },
    MuiTab: {
      styleOverrides: {
        root: { minHeight: 36, minWidth: 0, flex: 1, maxWidth: "none", padding: "0 6px", fontSize: 13.5, fontWeight: 400, letterSpacing: 0, textTransform: "none", color: "var(--ink2)", whiteSpace: "nowrap", "&.Mui-selected": { color: "var(--ink)", backgroundColor: "var(--sheet)", fontWeight: 650 }, "&.Mui-focusVisible": { ...focus, outlineOffset: -2 } },
      },
    },
    MuiTable: {
      styleOverrides: {
        root: {
          width: "100%",
          borderCollapse: "collapse",
          variants: [
            {
              props: { wide: true },
              style: { "& .MuiTableCell-root": { fontSize: 16, lineHeight: "21px", whiteSpace: "normal", padding: "7px 12px 7px 0" }, "& .MuiTableCell-head": { fontSize: 14, fontWeight: 500, padding: "4px 12px 4px 0" } },
            },
          ],
        },
      },
    },
    MuiTableCell: {
      styleOverrides: {
        root: { padding: "0 10px 0 0", borderBottom: "1px solid var(--line)", height: 31, whiteSpace: "nowrap", fontSize: 14.5, lineHeight: "18px", color: "var(--ink)", letterSpacing: 0, "&.n": numeral, [narrow]: { paddingRight: 5 } },
        head: { fontSize: 12.5, lineHeight: "16px", fontWeight: 550, color: "var(--ink2)", padding: "0 10px 4px 0", borderBottom: "1.5px solid var(--ink)", verticalAlign: "bottom", height: "auto" },
        alignRight: { paddingRight: 14, [narrow]: { paddingRight: 7 } },
      },
    },
    MuiTableRow: { styleOverrides: { root: { "&.Mui-selected, &.Mui-selected:hover": { backgroundColor: "var(--sheet)" } } } },
    MuiTextField: { defaultProps: { size: "small", fullWidth: true } },
    MuiOutlinedInput: {
      styleOverrides: {
        root: field,
        input: { padding: "0 10px", height: 41, fontSize: 15, lineHeight: "20px" },
        multiline: { padding: 0, "& textarea": { padding: "8px 10px", height: "auto" } },
        adornedEnd: { paddingRight: 8 },
      },
    },
    MuiInputAdornment: { styleOverrides: { root: { marginLeft: 4, height: "auto", maxHeight: "none", "& .MuiTypography-root": { fontSize: 13.5, lineHeight: "18px", color: "var(--ink2)" } } } },
    MuiInputLabel: { styleOverrides: { root: { color: c.ink2 } } },
    MuiFormLabel: { styleOverrides: { root: { fontSize: 12.5, lineHeight: "16px", fontWeight: 550, letterSpacing: 0, marginBottom: 3, color: "var(--ink2)", "&.Mui-focused": { color: "var(--ink2)" } } } },
    MuiNativeSelect: { styleOverrides: { select: { padding: "0 28px 0 10px !important", height: "41px !important", fontSize: 15 }, icon: { color: "var(--ink)" } } },
    MuiCheckbox: { styleOverrides: { root: { padding: 9, color: "var(--ink)", "&.Mui-checked": { color: "var(--ink)" }, "&.Mui-focusVisible": focus } } },
    MuiFormControlLabel: { styleOverrides: { root: { marginLeft: 0, marginRight: 0 }, label: { fontSize: 15, lineHeight: "20px" } } },
    MuiSlider: { styleOverrides: { root: { color: "var(--ink)" }, thumb: { width: 26, height: 26, backgroundColor: "var(--tape)", border: "1.5px solid var(--onTape)", borderRadius: 3 }, rail: { backgroundColor: "var(--lineStrong)" } } },
    MuiAlert: {
      defaultProps: { icon: false, severity: "warning" },
      styleOverrides: {
        root: { border: "1.5px solid var(--ink)", backgroundColor: "var(--sheet)", color: "var(--ink)", padding: "8px 12px", borderRadius: 3, fontSize: 14, lineHeight: "19px", letterSpacing: 0 },
        message: { padding: 0, minWidth: 0, overflow: "visible", width: "100%" },
      },
    },
    MuiSnackbarContent: { styleOverrides: { root: { backgroundColor: "var(--key)", color: "var(--onKey)", borderRadius: 3, fontSize: 15, boxShadow: "0 2px 0 rgba(28,30,58,.18)" } } },
    MuiTooltip: { styleOverrides: { tooltip: { backgroundColor: "var(--key)", color: "var(--onKey)", fontSize: 13.5, lineHeight: "18px", borderRadius: 3 } } },
    MuiSkeleton: { defaultProps: { animation: false }, styleOverrides: { root: { backgroundColor: "var(--sunk)", borderRadius: 3 } } },
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
  };
}
