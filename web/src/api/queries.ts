import { keepPreviousData, QueryClient, useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { api, Refusal, type Schemas } from "./client";

/** The names under which answers are kept: the kind of answer first, then what it was asked of. */
export const keys = {
  shop: () => ["shop"] as const,
  cars: (search: string, handedOver: boolean) => ["cars", search, handedOver] as const,
  car: (car: string) => ["car", car] as const,
  plans: (car: string) => ["plans", car] as const,
  schools: (car: string, question: string) => ["schools", car, question] as const,
  look: (panel: string) => ["look", panel] as const,
  condition: (panel: string, swirls: string | undefined, dead: string | undefined) => ["condition", panel, swirls, dead] as const,
  read: (panel: string) => ["read", panel] as const,
  place: (panel: string, x: number | undefined, y: number | undefined) => ["place", panel, x, y] as const,
  plan: (panel: string, ladder: string, gone: number | undefined) => ["plan", panel, ladder, gone] as const,
  level: (panel: string, section: string, person: string) => ["level", panel, section, person] as const,
  proof: (panel: string) => ["proof", panel] as const,
  carProof: (car: string) => ["carProof", car] as const,
  handover: (car: string) => ["handover", car] as const,
  paper: (car: string, paper: string, page: number) => ["paper", car, paper, page] as const,
  offers: (car: string) => ["offers", car] as const,
  budget: (car: string, asked: object) => ["budget", car, asked] as const,
  went: (car: string) => ["went", car] as const,
  care: () => ["care"] as const,
  backups: () => ["backups"] as const,
  search: (q: string) => ["search", q] as const,
  lamps: () => ["lamps"] as const,
  camera: () => ["camera"] as const,
  photos: () => ["photos"] as const,
  shelf: (pick: string) => ["shelf", pick] as const,
  rules: () => ["rules"] as const,
  people: () => ["people"] as const,
  week: () => ["week"] as const,
  stock: () => ["stock"] as const,
  workshop: () => ["workshop"] as const,
  gauges: () => ["gauges"] as const,
  bodies: () => ["bodies"] as const,
  body: (type: string, size: object) => ["body", type, size] as const,
  outline: (file: Schemas["OutlineFile"] | null | undefined) => ["outline", file] as const,
  check: (ask: Schemas["CheckFor"] | null) => ["check", ask] as const,
  guess: (colour: Schemas["Colour"], facts: Schemas["PanelFacts"]) => ["guess", colour, facts] as const,
};

type Kind = keyof typeof keys;

/** What is told of panels and cars: film, plans, passes, marks. */
const work: Kind[] = ["cars", "week", "stock", "car", "plans", "offers", "budget", "went", "schools", "look", "condition", "read", "place", "plan", "level", "proof", "carProof", "handover", "paper", "search"];

/** The answers that are no longer true once something has been changed. */
const stale = {
  /** Readings, marks, facts, tries or passes of a panel; passes teach the hands. */
  panel: [...work, "people", "shelf"],
  gauge: [...work, "gauges"],
  /** How photos of a lamp are taken, and how long they are kept. */
  lamps: ["lamps", "photos"],
  /** House rules, constants of the shelf, who may run what. */
  house: [...work, "rules", "shelf", "people", "workshop"],
  /** A car was taken in. */
  cars: ["cars", "search", "week", "stock"],
  /** Goods came in, were used or counted. */
  stock: ["stock", "week"],
  /** What a car has used was taken off the shelf. */
  used: ["stock", "week", "went"],
  /** The unit or the time zone: every sentence of the server. */
  wording: ["care", ...work, "rules", "shelf", "people", "gauges", "guess"],
} satisfies Record<string, Kind[]>;

/** Has asked again what a change has made stale: what is on screen at once, the rest when it is next shown. */
export function useChanged(): (what: keyof typeof stale) => Promise<void> {
  const client = useQueryClient();
  return useCallback(
    (what) => {
      const kinds: readonly unknown[] = stale[what];
      return client.invalidateQueries({ predicate: (q) => kinds.includes(q.queryKey[0]) });
    },
    [client],
  );
}

/** What is told of one panel, and of one car. */
const ofPanel: Kind[] = ["look", "condition", "read", "place", "plan", "level", "proof"];
const ofCar: Kind[] = ["car", "plans", "offers", "budget", "went", "schools", "carProof", "handover", "paper"];

/** Has asked again what the shop server says has changed, and nothing else. */
export function useTouched(): (what: { panel?: string; car?: string; list?: boolean }) => Promise<void> {
  const client = useQueryClient();
  return useCallback(
    ({ panel, car, list }) =>
      client.invalidateQueries({
        predicate: ({ queryKey: [kind, id] }) =>
          (panel !== undefined && id === panel && ofPanel.includes(kind as Kind)) || (car !== undefined && id === car && ofCar.includes(kind as Kind)) || (list === true && (kind === "cars" || kind === "week")),
      }),
    [client],
  );
}

/** Tries once more unless the server has said no. */
export const newQueries = () =>
  new QueryClient({
    defaultOptions: { queries: { retry: (tries, error) => tries < 1 && !(error instanceof Refusal && error.refused), staleTime: 2000, refetchOnWindowFocus: true } },
  });

/** ms after which a list looks again for cars that are being worked out. */
const renewed = 1500;
const cars = (search: string, handedOver: boolean) => ({
  queryKey: keys.cars(search, handedOver),
  queryFn: ({ pageParam }: { pageParam: string }) => api.cars({ ...(pageParam ? { cursor: pageParam } : {}), ...(search ? { search } : {}), ...(handedOver ? { handed_over: true } : {}) }),
  initialPageParam: "",
  getNextPageParam: (last: Schemas["CarPage"]) => last.cursor,
});
const car = (id: string) => ({ queryKey: keys.car(id), queryFn: () => api.car(id) });
const level = (panel: string, section: string, person: string) => ({ queryKey: keys.level(panel, section, person), queryFn: () => api.level(panel, section, person) });
const look = (panel: string) => ({ queryKey: keys.look(panel), queryFn: () => api.look(panel) });

/** Asks for what a page shows before the page itself is here. */
export const prefetch = {
  cars: (client: QueryClient) => client.prefetchInfiniteQuery(cars("", false)),
  car: (client: QueryClient, id: string) => client.prefetchQuery(car(id)),
  look: (client: QueryClient, panel: string) => client.prefetchQuery(look(panel)),
  /** Once: a page that shows it asks anew by itself. */
  level: (client: QueryClient, panel: string, section: string, person: string) => (client.getQueryData(keys.level(panel, section, person)) === undefined ? client.prefetchQuery(level(panel, section, person)) : Promise.resolve()),
};

/** The cars in the shop whose names begin like that, or those that were handed over, page by page. */
export const useCars = (search = "", handedOver = false) =>
  useInfiniteQuery({
    ...cars(search, handedOver),
    placeholderData: keepPreviousData,
    select: (all) => ({ cars: all.pages.flatMap((p) => p.cars), total: all.pages.at(-1)?.total ?? 0, others: all.pages.at(-1)?.others ?? 0 }),
    refetchInterval: (q) => (q.state.data?.pages.some((p) => p.cars.some((c) => c.renewing)) ? renewed : false),
  });
export const useCar = (id: string | undefined) => useQuery({ ...car(id ?? ""), enabled: Boolean(id) });
export const useLook = (panel: string) => useQuery(look(panel));
export const useCondition = (panel: string, swirls: Schemas["Swirls"] | undefined, dead: Schemas["Dead"] | undefined) =>
  useQuery({ queryKey: keys.condition(panel, swirls, dead), queryFn: () => api.condition(panel, { ...(swirls ? { swirls } : {}), ...(dead ? { dead } : {}) }), placeholderData: keepPreviousData });
export const useRead = (panel: string) => useQuery({ queryKey: keys.read(panel), queryFn: () => api.read(panel) });
export const usePlace = (panel: string, at: { x: number; y: number } | null) =>
  useQuery({ queryKey: keys.place(panel, at?.x, at?.y), queryFn: () => api.place(panel, at?.x ?? 0, at?.y ?? 0), enabled: at !== null, retry: false });
export const usePlan = (panel: string, ladder: string, gone?: number) => useQuery({ queryKey: keys.plan(panel, ladder, gone), queryFn: () => api.plan(panel, ladder, gone), placeholderData: keepPreviousData });
export const useLevel = (panel: string, section: string, person: string) =>
  useQuery({ ...level(panel, section, person), placeholderData: keepPreviousData });
export const useProof = (panel: string) => useQuery({ queryKey: keys.proof(panel), queryFn: () => api.proof(panel) });
export const useCarProof = (id: string | undefined) => useQuery({ queryKey: keys.carProof(id ?? ""), queryFn: () => api.carProof(id ?? ""), enabled: Boolean(id), placeholderData: keepPreviousData });
export const useHandover = (car: string) => useQuery({ queryKey: keys.handover(car), queryFn: () => api.handover(car) });
export const usePaper = (car: string, paper: "report.svg" | "record.svg", page: number, ready: boolean) =>
  useQuery({ queryKey: keys.paper(car, paper, page), queryFn: () => api.paperPage(car, paper, page), enabled: ready, placeholderData: keepPreviousData });
export const useBackups = () => useQuery({ queryKey: keys.backups(), queryFn: api.backups });
export const useSearch = (q: string) => useQuery({ queryKey: keys.search(q), queryFn: () => api.search(q), enabled: q !== "", placeholderData: keepPreviousData });
export const useCare = () => useQuery({ queryKey: keys.care(), queryFn: api.care });
export const useLamps = () => useQuery({ queryKey: keys.lamps(), queryFn: api.lamps });
/** Whether a camera answers; looked for again from time to time. */
export const useCamera = () => useQuery({ queryKey: keys.camera(), queryFn: api.camera, refetchInterval: 15_000, retry: false });
export const usePhotosKept = () => useQuery({ queryKey: keys.photos(), queryFn: api.photosKept });
export const useCarPlans = (id: string) => useQuery({ queryKey: keys.plans(id), queryFn: () => api.carPlans(id) });
export const useWent = (id: string) => useQuery({ queryKey: keys.went(id), queryFn: () => api.went(id) });
export const useOffers = (id: string) => useQuery({ queryKey: keys.offers(id), queryFn: () => api.offers(id) });
export const useBudget = (id: string, asked: { hours?: number; money?: number }) => useQuery({ queryKey: keys.budget(id, asked), queryFn: () => api.budget(id, asked), placeholderData: keepPreviousData });
export const useSchools = (id: string, question: string) => useQuery({ queryKey: keys.schools(id, question), queryFn: () => api.schools(id, question), placeholderData: keepPreviousData, enabled: id !== "" && question !== "" });
export const useShelf = (pick: string) => useQuery({ queryKey: keys.shelf(pick), queryFn: () => api.shelf(pick), placeholderData: keepPreviousData });
export const useRules = () => useQuery({ queryKey: keys.rules(), queryFn: api.rules });
export const usePeople = () => useQuery({ queryKey: keys.people(), queryFn: api.people });
/** Who does what when; asked again as the day goes on. */
export const useWeek = () => useQuery({ queryKey: keys.week(), queryFn: () => api.week(), placeholderData: keepPreviousData, refetchInterval: (q) => (q.state.data?.renewing ? renewed : 60_000) });
export const useStock = () => useQuery({ queryKey: keys.stock(), queryFn: api.stock, refetchInterval: (q) => (q.state.data?.renewing ? renewed : 60_000) });
export const useWorkshop = () => useQuery({ queryKey: keys.workshop(), queryFn: api.workshop });
export const useGauges = () => useQuery({ queryKey: keys.gauges(), queryFn: api.gauges });
export const useBodies = () => useQuery({ queryKey: keys.bodies(), queryFn: api.bodies, staleTime: Infinity });
export const useBody = (type: string, size: { length_mm?: number; width_mm?: number; height_mm?: number }) =>
  useQuery({ queryKey: keys.body(type, size), queryFn: () => api.body(type, size), enabled: type !== "", retry: false, placeholderData: keepPreviousData });
/** What a drawing is understood as; nothing without one. */
export const useOutline = (file: Schemas["OutlineFile"] | null) => useQuery({ queryKey: keys.outline(file), queryFn: () => api.checkOutline(file ?? { file_name: "", text: "" }), enabled: file !== null, retry: false });
/** Whether a panel that is no job yet may be sanded; nothing while its film is not known. */
export const useCheck = (ask: Schemas["CheckFor"] | null) =>
  useQuery({ queryKey: keys.check(ask), queryFn: () => api.check(ask ?? { total_um: 0 }), enabled: ask !== null, placeholderData: keepPreviousData, retry: false });
export const useGuess = (colour: Schemas["Colour"], facts: Schemas["PanelFacts"]) =>
  useQuery({ queryKey: keys.guess(colour, facts), queryFn: () => api.guess(colour, facts), enabled: facts.origin !== undefined, placeholderData: keepPreviousData, retry: false });
export const useShop = () => useQuery({ queryKey: keys.shop(), queryFn: api.shop, staleTime: 60_000 });

/** Sets the unit of film or the time zone of the shop, for all screens. */
export function useSetShop() {
  const client = useQueryClient();
  const changed = useChanged();
  return useMutation({
    mutationFn: api.setShop,
    onSuccess: (shop) => {
      client.setQueryData(keys.shop(), shop);
      return changed("wording");
    },
  });
}
