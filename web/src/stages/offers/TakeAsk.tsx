import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, newId, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { Ask, Foot } from "../../ui/Ask";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";

/** The owner takes an offer: what changes by it is said before. */
export function TakeAsk({ of, offer, close }: { of: Schemas["CarOffers"]; offer: Schemas["CarOffer"]; close: () => void }) {
  const changed = useChanged();
  const [id] = useState(newId);
  const [person, setPerson] = useState(of.car.painter);
  const take = useMutation({
    mutationFn: () => api.takeOffer(of.car.id, { id, name: offer.name, person: person.trim(), total: offer.price.total }),
    onSuccess: async () => {
      await changed("panel");
      close();
    },
  });
  return (
    <Ask title={`The owner takes “${offer.head}”`} close={close} submit={() => take.mutate()}>
      <p style={{ margin: 0 }}>
        {offer.hours_text}, {offer.price_text}, ready {offer.ready_text}. Its aims become those of {offer.panels.length === 1 ? "the panel" : `the ${offer.panels.length} panels`} on which no work has begun; plan each after that.
      </p>
      {offer.state === "tight" ? <Notice text={offer.reason} /> : null}
      {of.untold > 0 ? <p className="s">{of.untold === 1 ? "One thing" : `${of.untold} things`} that will not come out {of.untold === 1 ? "has" : "have"} still to be told: tick them in Take in.</p> : null}
      <Field label="who keeps it" value={person} most={40} autoFocus onChange={(e) => setPerson(e.target.value)} />
      {take.error ? <Notice text={take.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={close}>
          Not now
        </Button>
        <Button type="submit" variant="tape" disabled={take.isPending || !person.trim()}>
          Owner takes it <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}
