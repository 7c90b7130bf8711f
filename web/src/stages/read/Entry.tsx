import { useRef, useState, type KeyboardEvent } from "react";
import { Refusal, type Place, type Probe, type Shot } from "../../api/client";
import { useKeys } from "../../app/keys";
import { Notice } from "../../ui/Notice";
import { Offers } from "../../outbox/Offers";
import { plusMinus, shopUnit, unitName } from "../../app/format";

export interface Typed {
  film: number;
  unit: "um" | "mil";
  phase: "total" | "before_clear" | "clear";
  /** Why it is kept although it does not fit. */
  sure?: string;
}

export interface EntryProps {
  no: number;
  place: Place | undefined;
  fault: Error | null;
  busy: boolean;
  /** Resolves to true when it was kept; what was typed stays otherwise. */
  keep: (typed: Typed) => Promise<boolean>;
  /** Keeps what was offered for the reading that was not taken. */
  offer: (typed: Typed) => Promise<boolean>;
  said: string;
  probe: Probe | null;
  /** A shot of the gauge that belongs nowhere. */
  drop: (shot: Shot) => void;
  /** The latest reading can be taken back for a few seconds. */
  undo?: (() => void) | undefined;
  /** The reading that was not taken is left; another number follows. */
  leave: () => void;
}

/** Where a number is typed, on keys or on the pad. */
export function Entry({ no, place, fault, busy, keep, offer, said, probe, drop, undo, leave }: EntryProps) {
  const [value, setValue] = useState("");
  const [unit, setUnit] = useState<Typed["unit"]>(shopUnit);
  const [phase, setPhase] = useState<Typed["phase"]>("total");
  const [own, setOwn] = useState("");
  const send = async () => {
    const film = Number(value.replace(",", "."));
    if (value.trim() === "" || Number.isNaN(film)) {
      setOwn("Type what the gauge shows, such as 168, then Enter.");
      return;
    }
    setOwn("");
    if (await keep({ film, unit, phase })) setValue("");
  };
  const press = (sign: string) => setValue((v) => (sign === "back" ? v.slice(0, -1) : v.length < 7 ? v + sign : v));
  const onKey = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") {
      event.preventDefault();
      void send();
    }
  };
  const field = useRef<HTMLInputElement>(null);
  const typed = (sign: string) => () => {
    press(sign);
    field.current?.focus();
  };
  // What a gauge types goes into the field wherever the focus is.
  useKeys(Object.fromEntries([..."0123456789."].map((sign) => [sign, typed(sign)])));
  // What may be kept instead stands where the pad was.
  const offered = !own && fault instanceof Refusal && (fault.problem.offers?.length ?? 0) > 0;
  const unitWord = unit === "um" ? "µm" : "mil";
  return (
    <div className="entry" style={{ display: "flex", flexDirection: "column", gap: 8, flex: 1 }}>
      <div>
        <h2 className="t" style={{ fontSize: 17, lineHeight: "24px", display: "flex", gap: 8, alignItems: "center" }}>
          Reading at
          <span className="n" style={{ width: 23, height: 23, borderRadius: "50%", border: "1.75px solid var(--ink)", background: "var(--tape)", color: "var(--onTape)", fontSize: 13, textAlign: "center", lineHeight: "20px" }}>
            {no}
          </span>
        </h2>
        <div className="s">{place?.total_um ? `expected ${plusMinus(place.total_um)} ${unitName()}` : "nothing is expected yet"}</div>
      </div>
      <div className="field">
        <input ref={field} data-keys="numbers" aria-label={`Film at spot ${no}, ${unitWord}`} inputMode="decimal" autoComplete="off" autoFocus value={value} onChange={(e) => setValue(e.target.value.replace(/[^0-9.,-]/g, "").slice(0, 8))} onKeyDown={onKey} />
        <button type="button" onClick={() => setUnit(unit === "um" ? "mil" : "um")} aria-label={`unit ${unitWord}, change`}>
          {unitWord}
        </button>
      </div>
      <div className="one" role="group" aria-label="What is read">
        <button type="button" aria-pressed={phase === "total"} onClick={() => setPhase("total")}>
          all film
        </button>
        <button type="button" aria-pressed={phase === "before_clear"} onClick={() => setPhase("before_clear")}>
          before clear
        </button>
        <button type="button" aria-pressed={phase === "clear"} onClick={() => setPhase("clear")} title="by a gauge that resolves layers">
          clear
        </button>
      </div>
      {own ? (
        <Notice text={own} />
      ) : fault ? (
        <Offers
          error={fault}
          leave={() => {
            leave();
            setValue("");
            field.current?.focus();
          }}
          take={(o, sure) => {
            void offer({ film: o.film, unit: o.unit, phase, ...(sure ? { sure } : {}) }).then((kept) => {
              if (kept) setValue("");
            });
          }}
        />
      ) : (
        <p className="s" style={{ minHeight: 36 }} aria-live="polite">
          {said}{" "}
          {undo ? (
            <button type="button" className="linkish" onClick={undo}>
              take it back <span className="kc">U</span>
            </button>
          ) : null}
        </p>
      )}
      {probe?.shots.map((shot) => (
        <div key={shot.id} className="s" style={{ display: "flex", gap: 8, alignItems: "baseline" }}>
          <span className="b">{shot.text}</span>
          <button type="button" className="linkish" onClick={() => drop(shot)}>
            drop
          </button>
        </div>
      ))}
      <div className="pad" aria-label="Pad" hidden={offered}>
        {["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0"].map((d) => (
          <button key={d} type="button" className="key" onClick={() => press(d)}>
            {d}
          </button>
        ))}
        <button type="button" className="key" aria-label="take the last digit back" onClick={() => press("back")}>
          <svg width="26" height="20" viewBox="0 0 26 20" fill="none" stroke="currentColor" strokeWidth="1.75" aria-hidden="true">
            <path d="M8 2H24V18H8L1 10ZM12 7L19 13M19 7L12 13" strokeLinejoin="round" />
          </svg>
        </button>
      </div>
      <button type="button" className="key tape" style={{ minHeight: 56, padding: "0 8px" }} disabled={busy} onClick={() => void send()}>
        Keep, next {no + 1} <span className="kc">Enter</span>
      </button>
    </div>
  );
}
