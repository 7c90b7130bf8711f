import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, type ReactNode } from "react";
import { api } from "../api/client";
import { showIn, unitName } from "./format";

/** Draws everything in the shop's unit, and anew once that changes. */
export function InUnit({ children }: { children: ReactNode }) {
  const shop = useQuery({ queryKey: ["shop"], queryFn: api.shop, staleTime: 60_000 }).data;
  if (shop) showIn(shop.unit, shop.per_um);
  return <Fragment key={shop?.unit ?? "um"}>{children}</Fragment>;
}

/** Films in µm or in mil, on every screen of the shop. */
export function UnitKey() {
  const queries = useQueryClient();
  const turn = useMutation({
    mutationFn: () => api.setShop({ unit: unitName() === "mil" ? "um" : "mil" }),
    onSuccess: (shop) => {
      queries.setQueryData(["shop"], shop);
      return queries.invalidateQueries();
    },
  });
  return (
    <button type="button" className="xs" onClick={() => turn.mutate()} aria-label={`films in ${unitName()}, show them in ${unitName() === "mil" ? "µm" : "mil"}`}>
      {unitName()}
    </button>
  );
}
