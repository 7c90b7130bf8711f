import { Box, Button } from "@mui/material";
import { useRef, useState, type KeyboardEvent } from "react";
import { Refusal, type Place, type Probe, type Shot } from "../../api/client";
import { useKeys } from "../../app/keys";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { Offers } from "../../outbox/Offers";
import { useUnits } from "../../app/units";

export interface Typed {
  film: number;
  unit: "um" | "mil";
  phase: "total" | "before_clear" | "clear" | "bare";
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
  /** Enough was read: Enter without a number goes on. */
  onward?: (() => void) | undefined;
  /** What alone can be read here: the clear, by an ultrasonic gauge on plastic. */
  only?: Typed["phase"];
}

const phases = [
  ["total", "all film"],
  ["before_clear", "before clear"],
  ["clear", "clear"],
  ["bare", "no clear"],
] as const;

/** Where a number is typed, on keys or on the pad. */
export function Entry({ no, place, fault, busy, keep, offer, said, probe, drop, undo, leave, only, onward }: EntryProps) {
  const u = useUnits();
  const [value, setValue] = useState("");
  const [gaugeUnit, setUnit] = useState<Typed["unit"]>();
  const [phase, setPhase] = useState<Typed["phase"]>(only ?? "total");
  const [own, setOwn] = useState("");
  // The shop's unit, unless this gauge shows the other one.
  const unit = gaugeUnit ?? u.code;
  const send = async () => {
    const film = Number(value.replace(",", "."));
    if (value.trim() === "" && onward) {
      onward();
      return;
    }
    if (value.trim() === "" || Number.isNaN(film)) {
      setOwn("Type what the gauge shows, such as 168, then Enter.");
      return;
    }
    setOwn("");
    if (await keep({ film, unit, phase })) setValue("");
  };
  const press = (sign: string) => setValue((v) => (sign === "back" ? v.slice(0, -1) : v.length < 7 ? v + sign : v));
  const onKey = (event: KeyboardEvent) => {
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
    <Box className="entry" sx={{ display: "flex", flexDirection: "column", gap: 8, flex: 1 }}>
      <div>
        <Box component="h2" className="t" sx={{ fontSize: 17, lineHeight: "24px", display: "flex", gap: 8, alignItems: "center" }}>
          Reading at
          <Box component="span" className="n" sx={{ width: 23, height: 23, borderRadius: "50%", border: "1.75px solid var(--ink)", background: "var(--tape)", color: "var(--onTape)", fontSize: 13, textAlign: "center", lineHeight: "20px" }}>
            {no}
          </Box>
        </Box>
        <div className="s">{place?.total_um ? `expected ${u.plusMinus(place.total_um)} ${u.name}` : "nothing is expected yet"}</div>
      </div>
      <Field
        label={`Film at spot ${no}, ${unitWord}`}
        silent
        large
        inputRef={field}
        inputProps={{ "data-keys": "numbers", inputMode: "decimal" }}
        autoFocus
        value={value}
        onChange={(e) => setValue(e.target.value.replace(/[^0-9.,-]/g, "").slice(0, 8))}
        onKeyDown={onKey}
        endAdornment={
          <Button variant="hint" sx={{ fontSize: 17, minHeight: 44, pl: 8 }} onClick={() => setUnit(unit === "um" ? "mil" : "um")} aria-label={`unit ${unitWord}, change`}>
            {unitWord}
          </Button>
        }
      />
      {only ? null : <Choice label="What is read" silent fold value={phase} options={phases} set={setPhase} />}
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
        <Box component="p" className="s" sx={{ minHeight: 36 }} aria-live="polite">
          {said}{" "}
          {undo ? (
            <Button variant="link" onClick={undo}>
              take it back <span className="kc">U</span>
            </Button>
          ) : null}
        </Box>
      )}
      {probe?.shots.map((shot) => (
        <Box key={shot.id} className="s" sx={{ display: "flex", gap: 8, alignItems: "baseline" }}>
          <span className="b">{shot.text}</span>
          <Button variant="link" onClick={() => drop(shot)}>
            drop
          </Button>
        </Box>
      ))}
      <div className="pad" aria-label="Pad" hidden={offered}>
        {["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0"].map((d) => (
          <Button key={d} onClick={() => press(d)}>
            {d}
          </Button>
        ))}
        <Button aria-label="take the last digit back" onClick={() => press("back")}>
          <svg width="26" height="20" viewBox="0 0 26 20" fill="none" stroke="currentColor" strokeWidth="1.75" aria-hidden="true">
            <path d="M8 2H24V18H8L1 10ZM12 7L19 13M19 7L12 13" strokeLinejoin="round" />
          </svg>
        </Button>
      </div>
      <Button variant={onward ? "key" : "tape"} sx={{ minHeight: 56, padding: "0 8px" }} disabled={busy} onClick={() => void send()}>
        Keep, next {no + 1} <span className="kc">Enter</span>
      </Button>
    </Box>
  );
}
