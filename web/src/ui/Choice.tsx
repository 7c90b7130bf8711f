import { Box, FormLabel, ToggleButton, ToggleButtonGroup } from "@mui/material";
import { useId } from "react";

interface ChoiceProps<T extends string> {
  label: string;
  value: T | "";
  options: readonly (readonly [T, string])[];
  set: (v: T) => void;
  /** The label is for the ear alone. */
  silent?: boolean;
  /** As tall as a wet finger. */
  tall?: boolean;
  /** Two beside each other, where there is little room. */
  fold?: boolean;
  disabled?: boolean;
}

/** One of a few, side by side. */
export function Choice<T extends string>({ label, value, options, set, silent, tall, fold, disabled }: ChoiceProps<T>) {
  const id = useId();
  return (
    <Box sx={{ minWidth: 0 }}>
      {silent ? null : (
        <FormLabel component="div" id={id}>
          {label}
        </FormLabel>
      )}
      <ToggleButtonGroup exclusive value={value} disabled={disabled ?? false} sx={fold ? { display: "grid", gridTemplateColumns: "1fr 1fr" } : {}} {...(silent ? { "aria-label": label } : { "aria-labelledby": id })} onChange={(_, v: T | null) => set(v ?? (value as T))}>
        {options.map(([v, text]) => (
          <ToggleButton key={v} value={v} sx={tall ? { minHeight: 48 } : {}}>
            {v === value && !silent ? "✓ " : ""}
            {text}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}
