import { Button } from "@mui/material";
import { createContext, useContext, useMemo, type ReactNode } from "react";
import { useSetShop, useShop } from "../api/queries";
import type { Estimate, Schemas } from "../api/client";
import { short } from "./format";

/** How the shop is shown films and times. */
export interface Units {
  code: "um" | "mil";
  /** The unit of film as it is written. */
  name: string;
  /** A film of v µm in the shop's unit, as far as it is known. */
  um: (v: number) => string;
  /** A reading of v µm as the gauge showed it. */
  read: (v: number) => string;
  plusMinus: (e: Estimate) => string;
  /** Headroom of v µm, or the word for having none. */
  room: (v: number | undefined) => string;
  /** The edges of the bands of each layer of a film map, µm. */
  edges: Readonly<Record<"film" | "doubt" | "headroom", readonly number[]>>;
  /** The doubt from which a film is a guess, µm. */
  guessFrom: number;
  /** What somebody typed in the shop's unit, in µm. */
  typed: (v: number) => number;
  /** A moment as the clock on the shop's wall shows it. */
  clock: (at: Date) => string;
  /** The day of the week in the shop. */
  day: (at: Date) => string;
  /** A day as the shop writes it. */
  date: (at: Date) => string;
  /** A length of so many mm with its unit. */
  mm: (v: number) => string;
  /** A place or a size in mm, with the unit once. */
  size: (w: number, h: number, between: string) => string;
  /** The sign of the shop's money. */
  money: string;
  /** Times are written with am and pm. */
  twelve: boolean;
  /** How a day is written, in the letters of a picker, and the first day of the week, Sunday being 0. */
  dayFormat: string;
  weekStart: number;
  /** The IANA name of the shop's time zone; none before the shop is known. */
  zone: string | undefined;
}

const mmPerInch = 25.4;

function unitsOf(shop: Schemas["Shop"] | undefined): Units {
  const per = shop?.unit === "mil" ? shop.per_um : 1;
  const um = (v: number) => {
    if (per === 1) return short(v);
    const shown = v * per;
    return shown.toFixed(Math.abs(shown) < 0.0995 ? 3 : 2);
  };
  const read = (v: number) => (per === 1 ? String(Number(v.toFixed(1))) : um(v));
  const zone = shop?.time_zone;
  const there = zone ? { timeZone: zone } : {};
  const face = shop?.face ?? {};
  const twelve = face.clock === "12";
  const order = face.dates ?? "dmy";
  const length = (v: number) => (face.length === "in" ? String(Number((v / mmPerInch).toFixed(2))) : short(v));
  const date = (at: Date) => {
    if (order === "ymd") return at.toLocaleDateString("sv-SE", there);
    return at.toLocaleDateString(order === "mdy" ? "en-US" : "en-GB", { day: "numeric", month: "long", year: "numeric", ...there });
  };
  return {
    code: shop?.unit ?? "um",
    name: shop?.unit === "mil" ? "mil" : "µm",
    um,
    read,
    plusMinus: (e) => `${um(e.mean)} ± ${um(e.sd)}`,
    room: (v) => (v === undefined ? "" : v > 0 ? um(v) : "none"),
    edges: { film: shop?.layers.film ?? [], doubt: shop?.layers.doubt ?? [], headroom: shop?.layers.headroom ?? [] },
    guessFrom: shop?.layers.guess_from ?? 0,
    typed: (v) => v / per,
    clock: (at) => (twelve ? at.toLocaleTimeString("en-US", { hour: "numeric", minute: "2-digit", ...there }).toLowerCase().replace(/\u202f/g, " ") : at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", ...there })),
    date,
    mm: (v) => `${length(v)} ${face.length ?? "mm"}`,
    size: (w, h, between) => `${length(w)}${between}${length(h)} ${face.length ?? "mm"}`,
    money: face.money ?? "€",
    twelve,
    dayFormat: { dmy: "DD/MM/YYYY", mdy: "MM/DD/YYYY", ymd: "YYYY-MM-DD" }[order],
    weekStart: { monday: 1, sunday: 0, saturday: 6 }[face.week ?? "monday"],
    day: (at) => at.toLocaleDateString("en-GB", { weekday: "long", ...there }),
    zone,
  };
}

const UnitsContext = createContext<Units>(unitsOf(undefined));

/** Draws everything in the shop's unit and time; nothing typed is lost when they change. */
export function ShopUnits({ children }: { children: ReactNode }) {
  const shop = useShop().data;
  const units = useMemo(() => unitsOf(shop), [shop]);
  return <UnitsContext.Provider value={units}>{children}</UnitsContext.Provider>;
}

export const useUnits = () => useContext(UnitsContext);

/** Films in µm or in mil, on every screen of the shop. */
export function UnitKey() {
  const u = useUnits();
  const turn = useSetShop();
  const other = u.code === "mil" ? "um" : "mil";
  return (
    <Button variant="hint" sx={{ fontSize: 12, lineHeight: "16px" }} onClick={() => turn.mutate({ unit: other })} aria-label={`films in ${u.name}, show them in ${other === "mil" ? "mil" : "µm"}`}>
      {u.name}
    </Button>
  );
}
