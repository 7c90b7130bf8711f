import { useState } from "react";
import { Refusal, type Schemas } from "../api/client";
import { Notice } from "../ui/Notice";

type Offer = Schemas["ReadingOffer"];

export interface OffersProps {
  error: Error;
  /** Keeps what was offered; a reason where one is asked for. */
  take: (offer: Offer, sure?: string) => void;
  /** It is read again. */
  leave: () => void;
}

/** Why a reading was not taken, with what may be sent instead. */
export function Offers({ error, take, leave }: OffersProps) {
  const [asked, setAsked] = useState<Offer | null>(null);
  const [reason, setReason] = useState("");
  const offers = error instanceof Refusal ? (error.problem.offers ?? []) : [];
  return (
    <Notice
      text={error.message}
      action={
        offers.length === 0 ? undefined : asked ? (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              event.stopPropagation();
              take(asked, reason);
            }}
            style={{ display: "grid", gap: 6 }}
          >
            <label className="s" htmlFor="whysure">
              Why does it stand?
            </label>
            <input id="whysure" className="textline" autoFocus value={reason} onChange={(e) => setReason(e.target.value)} maxLength={200} placeholder="filler under it" />
            <button type="submit" className="key" style={{ minHeight: 40 }} disabled={reason.trim().length < 2}>
              {asked.text}
            </button>
          </form>
        ) : (
          <div style={{ display: "grid", gap: 6 }}>
            {offers.map((o) => (
              <button key={o.text} type="button" className="key" style={{ minHeight: 40, justifyContent: "flex-start" }} onClick={() => (o.sure ? setAsked(o) : take(o))}>
                {o.text}
              </button>
            ))}
            <button type="button" className="key q" style={{ minHeight: 40, justifyContent: "flex-start" }} onClick={leave}>
              read again
            </button>
          </div>
        )
      }
    />
  );
}
