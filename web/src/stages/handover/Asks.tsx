import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, newId, type Schemas } from "../../api/client";
import { useCare, useChanged } from "../../api/queries";
import { count } from "../../app/format";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Field, Tick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { When } from "../../ui/When";

type Handing = Schemas["Handing"];

interface AskProps {
  hand: Handing;
  close: () => void;
}

/** Who hands the car over, and when; why it goes as it is where something is still to do. */
export function HandOverAsk({ hand, close }: AskProps) {
  const changed = useChanged();
  const [id] = useState(newId);
  const [person, setPerson] = useState(hand.car.painter);
  const [day, setDay] = useState<string>();
  const [reason, setReason] = useState("");
  const todo = hand.todos.length;
  const send = useMutation({
    mutationFn: () => api.handOver(hand.car.id, { id, person: person.trim(), ...(day ? { day } : {}), ...(todo > 0 ? { as_it_is: true, reason: reason.trim() } : {}) }),
    onSuccess: async () => {
      await changed("panel");
      close();
    },
  });
  return (
    <Ask title={`Hand over: ${hand.car.name}`} close={close} submit={() => send.mutate()}>
      <p style={{ margin: 0 }}>Its film record no. {hand.record_no} is sealed. Nothing is written to this car before it is opened again with a reason.</p>
      {todo > 0 ? (
        <Notice>
          <b>{count(todo, "thing")} still to do.</b> They stand in the record as not done, with your reason.
        </Notice>
      ) : null}
      {todo > 0 ? <Field label="why it goes as it is" value={reason} most={200} autoFocus placeholder="the owner needs it today" onChange={(e) => setReason(e.target.value)} /> : null}
      <Field label="who hands it over" value={person} most={40} onChange={(e) => setPerson(e.target.value)} autoFocus={todo === 0} />
      <When label="when it leaves (now, if left empty)" value={day} set={setDay} />
      {send.error ? <Notice text={send.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={close}>
          Not now
        </Button>
        <Button type="submit" variant="tape" disabled={send.isPending || !person.trim() || (todo > 0 && reason.trim().length < 2)}>
          Hand over <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}

/** Why a car is opened again. */
export function ReopenAsk({ hand, close }: AskProps) {
  const changed = useChanged();
  const [id] = useState(newId);
  const [person, setPerson] = useState(hand.car.painter);
  const [reason, setReason] = useState("");
  const send = useMutation({
    mutationFn: () => api.reopenCar(hand.car.id, { id, person: person.trim(), reason: reason.trim() }),
    onSuccess: async () => {
      await changed("panel");
      close();
    },
  });
  return (
    <Ask title={`Open it again: ${hand.car.name}`} close={close} submit={() => send.mutate()}>
      <p style={{ margin: 0 }}>It comes back to Today with its film record. That it was handed over stays on record.</p>
      <Field label="who opens it" value={person} most={40} onChange={(e) => setPerson(e.target.value)} />
      <Field label="why" value={reason} most={200} autoFocus placeholder="came back with a scratch" onChange={(e) => setReason(e.target.value)} />
      {send.error ? <Notice text={send.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={close}>
          Not now
        </Button>
        <Button type="submit" variant="tape" disabled={send.isPending || reason.trim().length < 2 || !person.trim()}>
          Open it again <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}

/** Deletes what is known of the owner, on the owner's wish. */
export function ForgetAsk({ hand, close }: AskProps) {
  const changed = useChanged();
  const [id] = useState(newId);
  const [person, setPerson] = useState(hand.car.painter);
  const [photos, setPhotos] = useState(true);
  const send = useMutation({
    mutationFn: () => api.forgetOwner(hand.car.id, { id, person: person.trim(), photos }),
    onSuccess: async () => {
      await changed("panel");
      close();
    },
  });
  return (
    <Ask title="Delete what is known of the owner" close={close} submit={() => send.mutate()}>
      <p style={{ margin: 0 }}>
        The name of the car, the owner&apos;s words, notes on marks, what was told and who agreed are deleted for good. The film record stays, as no. {hand.record_no}. Copies of this shop that were made before still have them until they are deleted too.
      </p>
      <Tick checked={photos} set={setPhotos}>
        its photos too
      </Tick>
      <Field label="who deletes it" value={person} most={40} autoFocus onChange={(e) => setPerson(e.target.value)} />
      {send.error ? <Notice text={send.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={close}>
          Not now
        </Button>
        <Button type="submit" variant="tape" disabled={send.isPending || !person.trim()}>
          Delete for good <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}

/** What it was sealed with, what the maker's sheet says, and a line of the shop's own. */
export function CareAsk({ hand, close, save }: AskProps & { save: (choices: Schemas["ReportChoices"]) => void }) {
  const was = hand.choices;
  const rule = useCare().data;
  const usual = (air: number | undefined, baked: number | undefined) => (air === undefined ? "" : air === baked ? `rule: ${air}` : `rule: ${air}, baked ${baked ?? ""}`);
  const [sealed, setSealed] = useState(was.sealed ?? "none");
  const [at, setAt] = useState(was.sealed_at);
  const [name, setName] = useState(was.sheet?.name ?? "");
  const [dry, setDry] = useState(typed(was.sheet?.dry_h));
  const [wash, setWash] = useState(typed(was.sheet?.wash_d));
  const [breathe, setBreathe] = useState(typed(was.sheet?.breathe_d));
  const [note, setNote] = useState(was.note ?? "");
  const wrong = [dry, wash, breathe].some((v) => v.trim() !== "" && !(Number(v.replace(",", ".")) >= 0));
  const submit = () => {
    if (wrong) return;
    const sheet: Schemas["CareSheet"] = { ...(name.trim() ? { name: name.trim() } : {}), ...given("dry_h", dry), ...given("wash_d", wash), ...given("breathe_d", breathe) };
    const { parts, trade, pair } = was;
    save({ parts, ...(trade ? { trade } : {}), ...(pair ? { pair } : {}), sealed, ...(sealed !== "none" && at ? { sealed_at: at } : {}), sheet, ...(note.trim() ? { note: note.trim() } : {}) });
    close();
  };
  return (
    <Ask title="Until when to be careful" close={close} submit={submit} wide={620}>
      <Choice label="sealed with" value={sealed} options={[["none", "nothing"], ["wax", "wax"], ["coating", "a coating"]]} set={setSealed} />
      {sealed !== "none" ? <When label="when (now, if left empty)" value={at} set={setAt} /> : null}
      {hand.too_soon && sealed !== "none" ? <Notice text="Fresh paint was sealed before it may be. The paint maker's sheet decides what to do about that; it stands in the report." /> : null}
      <Field label="paint maker's sheet (empty: the shop's rule)" value={name} most={60} onChange={(e) => setName(e.target.value)} />
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr 1fr" }, gap: 12 }}>
        <Field label="keep dry" unit="hours" number value={dry} placeholder={usual(rule?.air_dry_h, rule?.baked_dry_h)} onChange={(e) => setDry(e.target.value)} />
        <Field label="first wash after" unit="days" number value={wash} placeholder={usual(rule?.first_wash_d, rule?.first_wash_d)} onChange={(e) => setWash(e.target.value)} />
        <Field label="seal after" unit="days" number value={breathe} placeholder={usual(rule?.air_breathe_d, rule?.baked_breathe_d)} onChange={(e) => setBreathe(e.target.value)} />
      </Box>
      {wrong ? <Notice text="Hours and days are numbers from 0, such as 24; leave out what the sheet does not say." /> : null}
      <Field label="a line of your own in the report" value={note} most={400} onChange={(e) => setNote(e.target.value)} />
      <Foot>
        <Button variant="quiet" onClick={close}>
          Leave it
        </Button>
        <Button type="submit" variant="tape" disabled={wrong}>
          Into the report <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}

const typed = (v: number | undefined): string => (v === undefined ? "" : String(v));

function given<K extends string>(key: K, text: string): Partial<Record<K, number>> {
  return text.trim() === "" ? {} : ({ [key]: Number(text.replace(",", ".")) } as Record<K, number>);
}
