import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, newId, type Schemas } from "../api/client";
import { useChanged } from "../api/queries";
import { Ask, Foot } from "../ui/Ask";
import { Choice } from "../ui/Choice";
import { Field, Pick } from "../ui/Field";
import { Notice } from "../ui/Notice";
import { much, units } from "../ui/much";

type Kind = "in" | "used" | "count";

const number = (text: string) => (text.trim() === "" ? undefined : Number(text.replace(",", ".")));

/** Goods that came in, were used or counted, and the marks of a thing. */
export function StockAsk({ stock, first, people, close }: { stock: Schemas["Stock"]; first: string; people: string[]; close: () => void }) {
  const changed = useChanged();
  const [id, setId] = useState(newId);
  const [item, setItem] = useState(stock.lines.some((l) => l.item === first) ? first : (stock.lines[0]?.item ?? ""));
  const line = stock.lines.find((l) => l.item === item);
  const [kind, setKind] = useState<Kind>(line?.counted ? "in" : "count");
  const [amount, setAmount] = useState("");
  const [low, setLow] = useState("");
  const [pack, setPack] = useState("");
  const [person, setPerson] = useState(people[0] ?? "");
  const [kept, setKept] = useState("");
  const values = [number(amount), number(low), number(pack)];
  const [n, least, packs] = values;
  const save = useMutation({
    mutationFn: () =>
      api.moveStock({ id, item, person: person.trim(), ...(n === undefined ? {} : { kind, much: n }), ...(least === undefined ? {} : { low: least }), ...(packs === undefined ? {} : { pack: packs }) }),
    onSuccess: async (now) => {
      await changed("stock");
      const l = now.lines.find((o) => o.item === item);
      setKept(l ? `${l.title} ${l.what}: ${much(l.here, l.unit)} here, ${l.text}.` : "Kept.");
      setId(newId());
      setAmount("");
      setLow("");
      setPack("");
    },
  });
  const sound = values.every((v) => v === undefined || !Number.isNaN(v)) && values.some((v) => v !== undefined);
  const unit = line ? units[line.unit] : "";
  return (
    <Ask title="Goods in, used, counted" close={close} leave submit={() => save.mutate()}>
      <Pick label="thing" value={item} set={setItem}>
        {stock.lines.map((l) => (
          <option key={l.item} value={l.item}>
            {l.title} {l.what}
            {l.counted ? `, ${much(l.here, l.unit)} here` : ", not counted"}
          </option>
        ))}
      </Pick>
      <Choice label="what happened" silent value={kind} options={[["in", "came in"], ["used", "were used"], ["count", "are there by count"]]} set={(v) => setKind(v)} />
      <Field label="how much" unit={unit} number autoFocus value={amount} onChange={(e) => setAmount(e.target.value)} />
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 10 }}>
        <Field label={`always keep${line?.counted ? `, now ${line.low}` : ""}`} unit={unit} number value={low} onChange={(e) => setLow(e.target.value)} />
        <Field label={`a pack has${line?.counted ? `, now ${line.pack}` : ""}`} unit={unit} number value={pack} onChange={(e) => setPack(e.target.value)} />
      </div>
      <Field label="who says so" value={person} most={40} onChange={(e) => setPerson(e.target.value)} />
      {kept ? <p className="b" role="status">{kept}</p> : null}
      {save.error ? <Notice text={save.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={close}>
          Done
        </Button>
        <Button type="submit" variant="tape" disabled={save.isPending || !sound || !person.trim()}>
          Keep it <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}
