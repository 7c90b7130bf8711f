import { Box, Button } from "@mui/material";
import { useState } from "react";
import { Refusal, type Schemas } from "../api/client";
import { Field } from "../ui/Field";
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
          <Box component="form"
            onSubmit={(event) => {
              event.preventDefault();
              event.stopPropagation();
              take(asked, reason);
            }}
            sx={{ display: "grid", gap: 6 }}
          >
            <Field label="Why does it stand?" autoFocus value={reason} onChange={(e) => setReason(e.target.value)} most={200} placeholder="filler under it" />
            <Button type="submit" sx={{ minHeight: 40 }} disabled={reason.trim().length < 2}>
              {asked.text}
            </Button>
          </Box>
        ) : (
          <Box sx={{ display: "grid", gap: 6 }}>
            {offers.map((o) => (
              <Button key={o.text} sx={{ minHeight: 40, justifyContent: "flex-start" }} onClick={() => (o.sure ? setAsked(o) : take(o))}>
                {o.text}
              </Button>
            ))}
            <Button variant="quiet" sx={{ minHeight: 40, justifyContent: "flex-start" }} onClick={leave}>
              read again
            </Button>
          </Box>
        )
      }
    />
  );
}
