import { useState } from "react";
import { short, typedFilm, um, unitName } from "../app/format";

/** A number that is kept when it is left or Enter is pressed. */
export function NumberField({ label, unit, value, keep, id, show = short }: { label: string; unit: string; value: number; keep: (v: number) => void; id?: string; show?: (v: number) => string }) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    const v = Number((typed ?? "").replace(",", "."));
    if (typed !== null && typed.trim() !== "" && Number.isFinite(v) && v !== value) keep(v);
    setTyped(null);
  };
  return (
    <label className="num">
      <span className="lab">{label}</span>
      <span className="numbox">
        <input
          {...(id ? { id } : {})}
          inputMode="decimal"
          value={typed ?? (value === 0 ? "" : show(value))}
          placeholder="–"
          onChange={(e) => setTyped(e.target.value)}
          onFocus={(e) => e.target.select()}
          onBlur={done}
          onKeyDown={(e) => {
            if (e.key === "Enter") {
              e.preventDefault();
              done();
              e.currentTarget.blur();
            }
            if (e.key === "Escape") {
              e.stopPropagation();
              setTyped(null);
              e.currentTarget.blur();
            }
          }}
        />
        <span className="s">{unit}</span>
      </span>
    </label>
  );
}

/** A film in the shop's unit; value and what is kept are µm. */
export function FilmField({ label, value, keep, id }: { label: string; value: number; keep: (v: number) => void; id?: string }) {
  return <NumberField label={label} unit={unitName()} value={value} show={um} keep={(v) => keep(typedFilm(v))} {...(id ? { id } : {})} />;
}

export function Choice<T extends string>({ label, value, options, set }: { label: string; value: T | ""; options: readonly (readonly [T, string])[]; set: (v: T) => void }) {
  return (
    <div role="group" aria-label={label}>
      <div className="lab">{label}</div>
      <div className="one">
        {options.map(([v, text]) => (
          <button key={v} type="button" aria-pressed={v === value} onClick={() => set(v)}>
            {v === value ? "✓ " : ""}
            {text}
          </button>
        ))}
      </div>
    </div>
  );
}
