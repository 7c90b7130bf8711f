import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, type Body, type BodyPanel, type Car, type PanelFacts, type Schemas } from "../../api/client";
import { FlatLay } from "../../flatlay/FlatLay";
import { Notice } from "../../shell/Notice";
import { NumberField, Choice } from "../../shell/Fields";
import { Page } from "../../shell/Page";
import { useKeys, type Keys } from "../../shell/keys";
import { carNotes } from "../../shop/stages";
import { capital, count } from "../../words/format";
import { Answers } from "./Answers";
import { Bodies, BodySize, own, OwnOutline, sizeText } from "./Bodies";
import { Checklist, Tellings } from "./Owner";
import { dropDraft, fresh, groupsOf, inWords, keepDraft, loadDraft, type Draft, type Facts } from "./draft";

export default function TakeInPage() {
  const { carId } = useParams();
  return carId ? <Known key={carId} carId={carId} /> : <Fresh />;
}

const shades: [Schemas["Colour"], string][] = [
  ["light", "light"],
  ["medium", "medium"],
  ["dark", "dark"],
];

/** The fills that tell groups apart; the largest is plain, what is in hand is tape. */
const fills = ["var(--sheet)", "url(#gLines)", "url(#gDots)", "url(#gSteep)", "url(#gGrid)"];

function GroupPatterns({ scale }: { scale: number }) {
  return (
    <svg width="0" height="0" style={{ position: "absolute" }} aria-hidden="true">
      <defs>
        {["", "k"].map((k) => {
          const z = k ? 1 : scale;
          return (
            <g key={k}>
              <pattern id={`gLines${k}`} width={7 * z} height={7 * z} patternUnits="userSpaceOnUse">
                <rect width={7 * z} height={7 * z} fill="var(--sheet)" />
                <rect width={7 * z} height={1.2 * z} fill="var(--ink)" />
              </pattern>
              <pattern id={`gDots${k}`} width={7 * z} height={7 * z} patternUnits="userSpaceOnUse">
                <rect width={7 * z} height={7 * z} fill="var(--sheet)" />
                <circle cx={2 * z} cy={2 * z} r={1.1 * z} fill="var(--ink)" />
              </pattern>
              <pattern id={`gSteep${k}`} width={8 * z} height={8 * z} patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
                <rect width={8 * z} height={8 * z} fill="var(--sheet)" />
                <rect width={8 * z} height={1.2 * z} fill="var(--ink)" />
              </pattern>
              <pattern id={`gGrid${k}`} width={9 * z} height={9 * z} patternUnits="userSpaceOnUse">
                <rect width={9 * z} height={9 * z} fill="var(--sheet)" />
                <path d={`M0 0H${9 * z}M0 0V${9 * z}`} stroke="var(--ink)" strokeWidth={z} />
              </pattern>
              <pattern id={`gUnsaid${k}`} width={11 * z} height={11 * z} patternUnits="userSpaceOnUse">
                <rect width={11 * z} height={11 * z} fill="var(--primer)" />
                <circle cx={2.6 * z} cy={2.6 * z} r={1.1 * z} fill="var(--lineStrong)" />
              </pattern>
            </g>
          );
        })}
      </defs>
    </svg>
  );
}

interface SheetProps {
  label: string;
  shape: Pick<Body, "box" | "scenery"> & { panels: BodyPanel[] };
  facts: Facts;
  hand: string[];
  setHand: (keys: string[]) => void;
}

/** The panels, many in hand at once, and the groups that were said alike. */
function Sheet({ label, shape, facts, hand, setHand }: SheetProps) {
  const keys = shape.panels.map((p) => p.key);
  const groups = groupsOf(facts, keys);
  const fillOf = (key: string, small: boolean) => {
    const i = groups.findIndex((g) => g.keys.includes(key));
    if (Object.keys(groups[i]?.facts ?? {}).length === 0) return small ? "url(#gUnsaidk)" : "url(#gUnsaid)";
    const fill = fills[i % fills.length] ?? "var(--sheet)";
    return small ? fill.replace(")", "k)").replace("var(--sheetk)", "var(--sheet)") : fill;
  };
  const nameOf = (key: string) => shape.panels.find((p) => p.key === key)?.name.replace(" and roof rail", "") ?? key;
  const touch = (key: string) => setHand(hand.includes(key) ? hand.filter((k) => k !== key) : [...hand, key]);
  return (
    <>
      <GroupPatterns scale={(shape.box.w + 120) / 560} />
      <FlatLay
        label={label}
        box={shape.box}
        scenery={shape.scenery}
        panels={shape.panels}
        height={392}
        choose={(p) => touch(p.key)}
        chosen={(p) => hand.includes(p.key)}
        spoken={(p) => `${p.name}: ${inWords(facts[p.key] ?? {})}`}
        fill={(p) => (hand.includes(p.key) ? "var(--tape)" : fillOf(p.key, false))}
      />
      <ul className="groups">
        {groups.map((g) => {
          const inHand = g.keys.every((k) => hand.includes(k));
          const first = g.keys[0] ?? "";
          return (
            <li key={g.keys.join()}>
              <button type="button" aria-pressed={inHand} onClick={() => setHand(inHand ? [] : g.keys)}>
                <svg width="32" height="20" aria-hidden="true">
                  <rect x=".75" y=".75" width="30.5" height="18.5" fill={inHand ? "var(--tape)" : fillOf(first, true)} stroke="var(--ink)" strokeWidth="1.5" />
                </svg>
                <span className="n" style={{ fontSize: 17, minWidth: 26, textAlign: "right" }}>
                  {g.keys.length}
                </span>
                <span className="clip">
                  <span className="b">{inWords(g.facts)}</span>: {g.keys.length > 6 ? `${g.keys.slice(0, 4).map(nameOf).join(", ")} and ${g.keys.length - 4} more` : g.keys.map(nameOf).join(", ")}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** Keys that take panels in hand. */
function handKeys(panels: BodyPanel[], facts: Facts, hand: string[], setHand: (keys: string[]) => void): Keys {
  return {
    s: () => {
      const last = panels.find((p) => p.key === hand.at(-1)) ?? panels.find((p) => p.side === "left");
      if (last) setHand(panels.filter((p) => p.side === last.side).map((p) => p.key));
    },
    a: () => setHand(panels.filter((p) => Object.keys(facts[p.key] ?? {}).length === 0).map((p) => p.key)),
  };
}

/** What is said alike of all the panels in hand. */
function alike(facts: Facts, hand: string[]): PanelFacts {
  const [first = {}, ...rest] = hand.map((k) => facts[k] ?? {});
  const same = ([field, value]: [string, unknown]) => rest.every((f) => JSON.stringify(f[field as keyof PanelFacts]) === JSON.stringify(value));
  return Object.fromEntries(Object.entries(first).filter(same)) as PanelFacts;
}

const helpKeys = [
  { keys: "1–9, 0", does: "body" },
  { keys: "arrows, Space", does: "go to panels, take them in hand" },
  { keys: "S", does: "the whole side" },
  { keys: "A", does: "all left over" },
  { keys: "Y", does: "said to the owner" },
  { keys: "Enter", does: "take in, or keep" },
];

function HandHead({ hand }: { hand: string[] }) {
  return (
    <h2 className="t heading" style={{ display: "flex", alignItems: "center", gap: 12 }}>
      For these <span className="badge n">{hand.length}</span>
    </h2>
  );
}

function SheetHead({ text, keys }: { text: string; keys: Keys }) {
  return (
    <h2 className="t heading" style={{ display: "flex", justifyContent: "space-between", alignItems: "baseline", gap: 12 }}>
      {text}
      <span className="keys" style={{ fontFamily: "Hanken Grotesk Variable", fontWeight: 400 }}>
        <button type="button" className="s" onClick={keys["s"]}>
          <span className="kc">S</span> whole side
        </button>
        <button type="button" className="s" onClick={keys["a"]}>
          <span className="kc">A</span> all left over
        </button>
      </span>
    </h2>
  );
}

interface WordsProps {
  words: string;
  cost: number;
  hours: number;
  set: (change: { words?: string; cost?: number; hours?: number }) => void;
}

function OwnerWords({ words, cost, hours, set }: WordsProps) {
  return (
    <div className="ownerwords">
      <label style={{ minWidth: 0 }}>
        <span className="lab">in the owner's words</span>
        <textarea className="plain" rows={2} maxLength={1000} value={words} onChange={(e) => set({ words: e.target.value })} placeholder="It looks patchy in the sun." />
      </label>
      <NumberField label="may cost up to" unit="€" value={cost} keep={(v) => set({ cost: v })} />
      <NumberField label="may take" unit="h" value={hours} keep={(v) => set({ hours: v })} />
    </div>
  );
}

/** A new car. */
function Fresh() {
  const go = useNavigate();
  const queries = useQueryClient();
  const [draft, setDraft] = useState<Draft>(loadDraft);
  const [hand, setHand] = useState<string[]>([]);
  const bodies = useQuery({ queryKey: ["bodies"], queryFn: api.bodies, staleTime: Infinity });
  const cars = useQuery({ queryKey: ["cars"], queryFn: api.cars });
  useEffect(() => keepDraft(draft), [draft]);
  const set = (change: Partial<Draft>) => setDraft((old) => ({ ...old, ...change }));
  const sized = Object.keys(draft.size).length > 0;
  const bodyQuery = useQuery({ queryKey: ["body", draft.body, draft.size], queryFn: () => api.body(draft.body, draft.size), enabled: sized && draft.body !== "" && draft.body !== own, retry: false, placeholderData: (old) => old });
  const outlineQuery = useQuery({ queryKey: ["outline", draft.outline], queryFn: () => api.checkOutline(draft.outline ?? { file_name: "", text: "" }), enabled: draft.body === own && draft.outline !== null, retry: false });
  const usual = bodies.data?.find((b) => b.type === draft.body);
  const shape: Body | undefined = draft.body === own ? outlineQuery.data?.body : sized ? (bodyQuery.data?.type === draft.body ? bodyQuery.data : usual) : usual;
  const choose = (type: string) => {
    set({ body: type, size: {}, facts: {}, like: "" });
    setHand([]);
  };
  const take = useMutation({
    mutationFn: () =>
      api.takeIn({
        name: draft.name,
        painter: draft.painter,
        colour: draft.colour,
        body: draft.body,
        ...(draft.body === "loose" ? { width_mm: draft.size.width_mm ?? usual?.width_mm ?? 0, height_mm: draft.size.height_mm ?? usual?.height_mm ?? 0 } : draft.size),
        ...(draft.body === own && draft.outline ? { outline: draft.outline } : {}),
        ...(draft.like ? { like: draft.like } : {}),
        owner_words: draft.words,
        cost_limit: draft.cost,
        hours_limit: draft.hours,
        groups: groupsOf(draft.facts, shape?.panels.map((p) => p.key) ?? []).filter((g) => Object.keys(g.facts).length > 0),
      }),
    onSuccess: async (made) => {
      dropDraft();
      setDraft(fresh);
      await queries.invalidateQueries({ queryKey: ["cars"] });
      void go(`/cars/${encodeURIComponent(made.id)}`);
    },
  });
  const keys: Keys = {
    ...handKeys(shape?.panels ?? [], draft.facts, hand, setHand),
    Enter: () => {
      if (!take.isPending) take.mutate();
    },
    Escape: () => void go("/"),
  };
  (bodies.data ?? []).forEach((b, i) => (keys[String(i + 1)] = () => choose(b.type)));
  keys["0"] = () => choose(own);
  useKeys(keys);
  const earlier = (cars.data ?? []).filter((c) => c.body === draft.body);
  const no = (bodies.data ?? []).findIndex((b) => b.type === draft.body);
  return (
    <Page
      title={draft.name || "New car"}
      sub={draft.body === "" ? "choose its body" : `${shape?.name ?? "own outline"}${no >= 0 ? `, body ${no + 1} of ${(bodies.data?.length ?? 0) + 1}` : ""}`}
      home="/"
      who={draft.painter || "nobody yet"}
      stage={{ current: 0, notes: {} }}
      query={bodies}
      keys={helpKeys}
    >
      {bodies.data ? (
        <div className="takein">
          <section aria-label="Which car" className="which">
            <h2 className="t heading">Which car is it?</h2>
            <div className="pair">
              <label>
                <span className="lab">name</span>
                <input className="plain" value={draft.name} onChange={(e) => set({ name: e.target.value })} placeholder="Ferry estate" maxLength={60} autoFocus />
              </label>
              <label>
                <span className="lab">who works on it</span>
                <input className="plain" value={draft.painter} onChange={(e) => set({ painter: e.target.value })} placeholder="Runa" maxLength={40} />
              </label>
            </div>
            <Choice label="how dark is the colour" value={draft.colour} options={shades} set={(colour) => set({ colour })} />
            {draft.body === "" ? (
              <p className="s">Then its body, by picture or by number.</p>
            ) : (
              <>
                <div className="folded">
                  <span className="t" style={{ fontSize: 17 }}>
                    {capital(usual?.name ?? "your own outline")}
                  </span>
                  <button type="button" className="linkish" onClick={() => choose("")}>
                    another body
                  </button>
                </div>
                {draft.body === own ? <OwnOutline file={draft.outline} set={(outline) => set({ outline, facts: {} })} /> : null}
                {usual ? (
                  <>
                    <BodySize body={usual} size={draft.size} set={(size) => set({ size })} />
                    {bodyQuery.error && sized ? <Notice text={bodyQuery.error.message} /> : null}
                    <p className="s">{shape ? `Drawn as ${sizeText(shape)}, ${count(shape.panels.length, "panel")}, ${shape.panels.reduce((a, p) => a + p.area_m2, 0).toFixed(1)} m² of paint.` : ""}</p>
                  </>
                ) : null}
                {earlier.length > 0 ? (
                  <label>
                    <span className="lab">its panels are known like those of</span>
                    <select className="plain" value={draft.like} onChange={(e) => set({ like: e.target.value })}>
                      <option value="">no earlier car</option>
                      {earlier.map((c) => (
                        <option key={c.id} value={c.id}>
                          {c.name}
                        </option>
                      ))}
                    </select>
                  </label>
                ) : null}
                {draft.like ? <p className="s">Finish, coats and aims are taken over from it, the day of spraying is not. What you say here wins.</p> : null}
              </>
            )}
          </section>
          {draft.body === "" ? (
            <Bodies bodies={bodies.data} choose={choose} />
          ) : (
            <>
          <section aria-label="The panels" className="panels">
            {shape ? (
              <>
                <SheetHead text="Touch the panels that are alike" keys={keys} />
                <Sheet label={`${shape.name} unfolded, nose to the left`} shape={shape} facts={draft.facts} hand={hand} setHand={setHand} />
                <OwnerWords words={draft.words} cost={draft.cost} hours={draft.hours} set={(c) => set(c)} />
              </>
            ) : (
              <p className="s" style={{ paddingTop: 40, fontSize: 17, lineHeight: "24px" }}>
                The panels appear here when the drawing is read.
              </p>
            )}
          </section>
          <section aria-label="For these panels" className="said">
            <HandHead hand={hand} />
            {hand.length === 0 ? (
              <p className="s">{shape ? "Touch a panel, or A for all left over. What you answer here goes to all that are in hand." : "First the body."}</p>
            ) : (
              <Answers facts={alike(draft.facts, hand)} colour={draft.colour} set={(change) => set({ facts: { ...draft.facts, ...Object.fromEntries(hand.map((k) => [k, { ...draft.facts[k], ...change }])) } })} />
            )}
            <div style={{ marginTop: "auto", display: "grid", gap: 8 }}>
              {take.error ? <Notice text={take.error.message} /> : null}
              <button type="button" className="key tape" style={{ minHeight: 48 }} onClick={() => take.mutate()} disabled={take.isPending || draft.body === ""}>
                Take in <span className="kc">Enter</span>
              </button>
            </div>
          </section>
            </>
          )}
        </div>
      ) : null}
    </Page>
  );
}

/** What was said of the panels of a car that is in. */
function factsOf(car: Car): Facts {
  return Object.fromEntries(
    car.panels.map((p) => [
      p.key,
      {
        origin: p.origin,
        layers: p.layers,
        coats: p.coats,
        ...(p.dry_um ? { dry_um: p.dry_um } : {}),
        ...(p.wet_um ? { wet_um: p.wet_um, solids: p.solids } : {}),
        ...(p.sprayed_at ? { sprayed_at: p.sprayed_at } : {}),
        cure: p.cure,
        substrate: p.substrate,
        aim: p.aim,
        ...(p.past.length > 0 ? { past: p.past } : {}),
      },
    ]),
  );
}

/** A car that is in: what was said can be said anew. */
function Known({ carId }: { carId: string }) {
  const go = useNavigate();
  const queries = useQueryClient();
  const query = useQuery({ queryKey: ["car", carId], queryFn: () => api.car(carId) });
  const car = query.data;
  const [hand, setHand] = useState<string[]>([]);
  const [words, setWords] = useState<{ words?: string; cost?: number; hours?: number }>({});
  const put = (next: Car) => {
    queries.setQueryData(["car", carId], next);
    void queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== "car" && q.queryKey[0] !== "bodies" });
  };
  const say = useMutation({ mutationFn: (facts: PanelFacts) => api.changePanels(carId, hand, facts), onSuccess: put });
  const keep = useMutation({
    mutationFn: () =>
      api.changeCar(carId, {
        ...(words.words === undefined ? {} : { owner_words: words.words }),
        ...(words.cost === undefined ? {} : { cost_limit: words.cost }),
        ...(words.hours === undefined ? {} : { hours_limit: words.hours }),
      }),
    onSuccess: async () => {
      setWords({});
      await queries.invalidateQueries({ queryKey: ["car", carId] });
    },
  });
  const tell = useMutation({
    mutationFn: (key: string) => api.say(carId, { key, said: !car?.tellings.find((t) => t.key === key)?.said_at, person: car?.painter ?? "" }),
    onSuccess: (tellings) => queries.setQueryData<Car>(["car", carId], (old) => (old ? { ...old, tellings } : old)),
  });
  const facts = car ? factsOf(car) : {};
  const panels: BodyPanel[] = car ? car.panels.map((p) => ({ ...p, side: p.placement.turned ? "right" : p.mirror ? "left" : "middle", lie: "upright" })) : [];
  const keys: Keys = {
    ...handKeys(panels, facts, hand, setHand),
    a: () => setHand(hand.length === panels.length ? [] : panels.map((p) => p.key)),
    y: () => {
      const next = car?.tellings.find((t) => !t.said_at);
      if (next) tell.mutate(next.key);
    },
    Enter: () => (Object.keys(words).length > 0 ? keep.mutate() : void go(`/cars/${encodeURIComponent(carId)}`)),
    Escape: () => void go(`/cars/${encodeURIComponent(carId)}`),
  };
  useKeys(keys);
  const fault = say.error ?? keep.error ?? tell.error;
  const changed = Object.keys(words).length > 0;
  return (
    <Page title={car?.name ?? "Car"} sub={car ? `${car.body === own ? "own outline" : car.body}, ${car.colour}` : ""} home={`/cars/${encodeURIComponent(carId)}`} who={car?.painter ?? ""} stage={{ current: 0, notes: car ? carNotes(car) : {} }} query={query} keys={helpKeys}>
      {car ? (
        <div className="takein known">
          <section aria-label="The panels" className="panels">
            <SheetHead text="Touch the panels that are alike" keys={keys} />
            <Sheet label={`${car.name} unfolded, nose to the left`} shape={{ box: car.box, scenery: car.scenery, panels }} facts={facts} hand={hand} setHand={setHand} />
            <OwnerWords words={words.words ?? car.owner_words} cost={words.cost ?? car.cost_limit} hours={words.hours ?? car.hours_limit} set={(c) => setWords({ ...words, ...c })} />
          </section>
          <section aria-label="For these panels" className="said">
            <HandHead hand={hand} />
            {hand.length === 0 ? <p className="s">Touch a panel to change what was said of it. Readings and marks stay as they are.</p> : <Answers facts={alike(facts, hand)} colour={car.colour} set={(change) => say.mutate(change)} />}
          </section>
          <section aria-label="The car" className="which">
            <Tellings car={car} said={(key) => tell.mutate(key)} />
            <Checklist car={car} />
            {fault ? <Notice text={fault.message} /> : null}
            <button type="button" className={`key ${changed ? "tape" : ""}`} style={{ minHeight: 48, marginTop: "auto" }} onClick={keys["Enter"]}>
              {changed ? "Keep the words" : "To the car"} <span className="kc">Enter</span>
            </button>
          </section>
        </div>
      ) : null}
    </Page>
  );
}
