import { Button } from "@mui/material";
import { Refusal } from "../api/client";
import { Notice } from "../ui/Notice";
import { Offers } from "./Offers";
import { queue } from "./queue";
import type { KeptReading } from "./useOutbox";

/** What the shop server asks about a reading that was kept on this device. */
export function KeptReadings({ readings }: { readings: KeptReading[] }) {
  const asks = readings.find((r) => r.refused);
  if (!asks?.refused) return null;
  const { refused, ...bare } = asks;
  const drop = () => void queue.drop(asks);
  if ((refused.offers ?? []).length > 0) {
    return <Offers error={new Refusal(refused)} leave={drop} take={(o, sure) => void queue.change({ ...bare, body: { ...bare.body, film: o.film, unit: o.unit, ...(sure ? { sure } : {}) } })} />;
  }
  return (
    <Notice
      text={`The reading of ${asks.body.film} ${asks.body.unit === "mil" ? "mil" : "µm"} that was kept here was not taken. ${refused.detail}`}
      action={
        <Button variant="quiet" onClick={drop}>
          Leave it out
        </Button>
      }
    />
  );
}
