import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { useBodies, useBody, useCars, useChanged, useOutline } from "../../api/queries";
import { Field, Pick } from "../../ui/Field";
import { api, type Body, type Schemas } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { Choice } from "../../ui/Choice";
import { Page } from "../../app/Page";
import { useKeys, type Keys } from "../../app/keys";
import { capital, count } from "../../app/format";
import { Answers } from "./Answers";
import { Bodies, BodySize, own, OwnOutline, sizeText } from "./Bodies";
import { HandHead, OwnerWords, Sheet, SheetHead } from "./Sheet";
import { dropDraft, fresh, groupsOf, keepDraft, loadDraft, type Draft } from "./draft";
import { alike, handKeys, helpKeys } from "./hand";
import { TakeInFrame } from "./Frame";

const shades: [Schemas["Colour"], string][] = [
  ["light", "light"],
  ["medium", "medium"],
  ["dark", "dark"],
];

/** A new car. */
export function Fresh() {
  const go = useNavigate();
  const changed = useChanged();
  const [draft, setDraft] = useState<Draft>(loadDraft);
  const [hand, setHand] = useState<string[]>([]);
  const bodies = useBodies();
  const cars = useCars();
  useEffect(() => keepDraft(draft), [draft]);
  const set = (change: Partial<Draft>) => setDraft((old) => ({ ...old, ...change }));
  const sized = Object.keys(draft.size).length > 0;
  const bodyQuery = useBody(sized && draft.body !== own ? draft.body : "", draft.size);
  const outlineQuery = useOutline(draft.body === own ? draft.outline : null);
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
      await changed("cars");
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
  const earlier = (cars.data?.cars ?? []).filter((c) => c.body === draft.body);
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
        <TakeInFrame>
          <section aria-label="Which car" className="which">
            <h2 className="t heading">Which car is it?</h2>
            <div className="pair">
              <Field label="name" value={draft.name} onChange={(e) => set({ name: e.target.value })} placeholder="Ferry estate" most={60} autoFocus />
              <Field label="who works on it" value={draft.painter} onChange={(e) => set({ painter: e.target.value })} placeholder="Runa" most={40} />
            </div>
            <Choice label="how dark is the colour" value={draft.colour} options={shades} set={(colour) => set({ colour })} />
            {draft.body === "" ? (
              <p className="s">Then its body, by picture or by number.</p>
            ) : (
              <>
                <div className="folded">
                  <Box component="span" className="t" sx={{ fontSize: 17 }}>
                    {capital(usual?.name ?? "your own outline")}
                  </Box>
                  <Button variant="link" onClick={() => choose("")}>
                    another body
                  </Button>
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
                  <Pick label="its panels are known like those of" value={draft.like} set={(like) => set({ like })}>
                      <option value="">no earlier car</option>
                      {earlier.map((c) => (
                        <option key={c.id} value={c.id}>
                          {c.name}
                        </option>
                      ))}
                  </Pick>
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
              <Box component="p" className="s" sx={{ paddingTop: 40, fontSize: 17, lineHeight: "24px" }}>
                The panels appear here when the drawing is read.
              </Box>
            )}
          </section>
          <section aria-label="For these panels" className="said">
            <HandHead hand={hand} />
            {hand.length === 0 ? (
              <p className="s">{shape ? "Touch a panel, or A for all left over. What you answer here goes to all that are in hand." : "First the body."}</p>
            ) : (
              <Answers facts={alike(draft.facts, hand)} colour={draft.colour} set={(change) => set({ facts: { ...draft.facts, ...Object.fromEntries(hand.map((k) => [k, { ...draft.facts[k], ...change }])) } })} />
            )}
            <Box sx={{ marginTop: "auto", display: "grid", gap: 8 }}>
              {take.error ? <Notice text={take.error.message} /> : null}
              <Button variant="tape" sx={{ minHeight: 48 }} onClick={() => take.mutate()} disabled={take.isPending || draft.body === ""}>
                Take in <span className="kc">Enter</span>
              </Button>
            </Box>
          </section>
            </>
          )}
        </TakeInFrame>
      ) : null}
    </Page>
  );
}
