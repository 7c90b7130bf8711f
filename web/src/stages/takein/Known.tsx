import { Button } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { keys as answers, useCar, useChanged } from "../../api/queries";
import { api, type Car, type PanelFacts } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { Page } from "../../app/Page";
import { useKeys, type Keys } from "../../app/keys";
import { carNotes } from "../../app/stageNotes";
import { bodyName } from "../../app/format";
import { Answers } from "./Answers";
import { Checklist, Tellings } from "./Owner";
import { HandHead, OwnerWords, Sheet, SheetHead } from "./Sheet";
import type { Facts } from "./draft";
import { alike, handKeys, helpKeys } from "./hand";
import { TakeInFrame } from "./Frame";

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
        ...(p.paint ? { paint: p.paint } : {}),
        ...(p.wet_um ? { wet_um: p.wet_um, solids: p.solids } : {}),
        ...(p.sprayed_at ? { sprayed_at: p.sprayed_at } : {}),
        cure: p.cure,
        under: p.under,
        substrate: p.substrate,
        aim: p.aim,
        ...(p.past.length > 0 ? { past: p.past } : {}),
      },
    ]),
  );
}

/** A car that is in: what was said can be said anew. */
export function Known({ carId }: { carId: string }) {
  const go = useNavigate();
  const queries = useQueryClient();
  const touch = useChanged();
  const query = useCar(carId);
  const car = query.data;
  const [hand, setHand] = useState<string[]>([]);
  const [words, setWords] = useState<{ words?: string; cost?: number; hours?: number }>({});
  const put = (next: Car) => {
    queries.setQueryData(answers.car(carId), next);
    void touch("panel");
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
      await queries.invalidateQueries({ queryKey: answers.car(carId) });
    },
  });
  const tell = useMutation({
    mutationFn: (key: string) => api.say(carId, { key, said: !car?.tellings.find((t) => t.key === key)?.said_at, person: car?.painter ?? "" }),
    onSuccess: (tellings) => {
      queries.setQueryData<Car>(answers.car(carId), (old) => (old ? { ...old, tellings } : old));
      return queries.invalidateQueries({ queryKey: answers.car(carId) });
    },
  });
  const facts = car ? factsOf(car) : {};
  const panels = car?.panels ?? [];
  const keys: Keys = {
    ...handKeys(panels, facts, hand, setHand),
    a: () => setHand(hand.length === panels.length ? [] : panels.map((p) => p.key)),
    y: () => {
      const next = car?.tellings.find((t) => !t.said_at);
      if (next) tell.mutate(next.key);
    },
    Enter: () => (Object.keys(words).length > 0 ? keep.mutate() : void go(`/cars/${encodeURIComponent(carId)}`)),
    Escape: () => (hand.length > 0 ? setHand([]) : void go(`/cars/${encodeURIComponent(carId)}`)),
  };
  useKeys(keys);
  const fault = say.error ?? keep.error ?? tell.error;
  const changed = Object.keys(words).length > 0;
  return (
    <Page title={car?.name ?? "Car"} sub={car ? `${bodyName(car.body)}, ${car.colour}` : ""} home={`/cars/${encodeURIComponent(carId)}`} who={car?.painter ?? ""} stage={{ current: 0, notes: car ? carNotes(car) : {} }} query={query} keys={helpKeys}>
      {car ? (
        <TakeInFrame className="known">
          <section aria-label="The panels" className="panels">
            <SheetHead text="Touch the panels that are alike" keys={keys} />
            <Sheet label={`${car.name} unfolded, nose to the left`} shape={{ box: car.box, scenery: car.scenery, panels }} facts={facts} hand={hand} setHand={setHand} />
            <OwnerWords words={words.words ?? car.owner_words} cost={words.cost ?? car.cost_limit} hours={words.hours ?? car.hours_limit} set={(c) => setWords({ ...words, ...c })} />
          </section>
          <section aria-label="For these panels" className="said">
            {hand.length === 0 ? (
              <>
                <p className="s">Touch a panel to change what was said of it. Readings and marks stay as they are.</p>
                <Checklist car={car} />
              </>
            ) : (
              <>
                <HandHead hand={hand} />
                <Answers facts={alike(facts, hand)} colour={car.colour} set={(change) => say.mutate(change)} />
              </>
            )}
          </section>
          <section aria-label="The car" className="which">
            <Tellings car={car} said={(key) => tell.mutate(key)} />
            {fault ? <Notice text={fault.message} /> : null}
            <Button variant={changed ? "tape" : "key"} sx={{ minHeight: 48, marginTop: "auto" }} onClick={keys["Enter"]}>
              {changed ? "Keep the words" : "To the car"} <span className="kc">Enter</span>
            </Button>
          </section>
        </TakeInFrame>
      ) : null}
    </Page>
  );
}
