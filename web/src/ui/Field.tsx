import { FormControl, FormControlLabel, FormLabel, Checkbox, InputAdornment, NativeSelect, OutlinedInput, type OutlinedInputProps } from "@mui/material";
import { useId, type ReactNode } from "react";

const numeral = { fontFamily: '"Archivo Variable", sans-serif', fontStretch: "112%", fontFeatureSettings: '"tnum"', fontWeight: 600, fontSize: 17, textAlign: "right" } as const;
const big = { minHeight: 72, "& .MuiOutlinedInput-notchedOutline": { border: "2px solid var(--ink) !important" }, "& input": { ...numeral, fontWeight: 640, fontSize: 42, height: 68 } } as const;

export interface FieldProps extends Omit<OutlinedInputProps, "label"> {
  label: string;
  /** What stands behind the number. */
  unit?: string | undefined;
  /** Holds a number: in our numerals, to the right, with the number keys of a phone. */
  number?: boolean;
  /** The label is for the ear alone. */
  silent?: boolean | undefined;
  /** What the gauge shows: the one number of the screen. */
  large?: boolean;
  /** Most letters. */
  most?: number;
}

/** A line to type in, its label above it. */
export function Field({ label, unit, number, large, silent, most, inputProps, sx, id, ...rest }: FieldProps) {
  const own = useId();
  const at = id ?? own;
  return (
    <FormControl fullWidth>
      {silent ? null : (
        <FormLabel htmlFor={at} id={`${at}-label`}>
          {label}
        </FormLabel>
      )}
      <OutlinedInput
        id={at}
        size="small"
        autoComplete="off"
        endAdornment={unit ? <InputAdornment position="end" id={`${at}-unit`}>{unit}</InputAdornment> : undefined}
        inputProps={{ ...(number ? { inputMode: "decimal" } : {}), ...(most ? { maxLength: most } : {}), ...(silent ? { "aria-label": label } : unit ? { "aria-labelledby": `${at}-label ${at}-unit` } : {}), ...inputProps }}
        sx={[large ? big : number ? { pr: 6, "& input": { ...numeral, p: "0 2px 0 6px" } } : {}, ...(Array.isArray(sx) ? sx : [sx ?? {}])]}
        {...rest}
      />
    </FormControl>
  );
}

/** One of many, in the list of the device: large under a finger. */
export function Pick({ label, value, set, silent, children, id }: { label: string; value: string; set: (v: string) => void; silent?: boolean; children: ReactNode; id?: string }) {
  const own = useId();
  const at = id ?? own;
  return (
    <FormControl fullWidth>
      {silent ? null : <FormLabel htmlFor={at}>{label}</FormLabel>}
      <NativeSelect value={value} onChange={(e) => set(e.target.value)} input={<OutlinedInput size="small" />} inputProps={{ id: at, ...(silent ? { "aria-label": label } : {}) }}>
        {children}
      </NativeSelect>
    </FormControl>
  );
}

/** A yes or no, its words beside it. */
export function Tick({ checked, set, children, label }: { checked: boolean; set: (v: boolean) => void; children?: ReactNode; label?: string }) {
  const box = <Checkbox checked={checked} onChange={(e) => set(e.target.checked)} slotProps={label ? { input: { "aria-label": label } } : {}} />;
  return children ? <FormControlLabel control={box} label={children} sx={{ minHeight: 44, alignItems: "center" }} /> : box;
}
