import { useState } from "react";
import { short } from "../app/format";
import { useUnits } from "../app/units";
import { Field } from "./Field";

interface NumberFieldProps {
  label: string;
  unit: string;
  value: number;
  keep: (v: number) => void;
  id?: string;
  show?: (v: number) => string;
  silent?: boolean;
}

/** A number that is kept when it is left or Enter is pressed. */
export function NumberField({ label, unit, value, keep, id, show = short, silent }: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    const v = Number((typed ?? "").replace(",", "."));
    if (typed !== null && typed.trim() !== "" && Number.isFinite(v) && v !== value) keep(v);
    setTyped(null);
  };
  return (
    <Field
      label={label}
      number
      unit={unit}
      silent={silent}
      {...(id ? { id } : {})}
      value={typed ?? (value === 0 && !silent ? "" : show(value))}
      placeholder="–"
      onChange={(e) => setTyped(e.target.value)}
      onFocus={(e) => e.target.select()}
      onBlur={done}
      onKeyDown={(e) => {
        if (e.key === "Enter") {
          e.preventDefault();
          done();
          (e.target as HTMLElement).blur();
        }
        if (e.key === "Escape") {
          e.stopPropagation();
          setTyped(null);
          (e.target as HTMLElement).blur();
        }
      }}
    />
  );
}

/** A film in the shop's unit; value and what is kept are µm. What is half typed is read in the unit that is shown. */
export function FilmField({ label, value, keep, id }: { label: string; value: number; keep: (v: number) => void; id?: string }) {
  const u = useUnits();
  return <NumberField label={label} unit={u.name} value={value} show={u.um} keep={(v) => keep(u.typed(v))} {...(id ? { id } : {})} />;
}
