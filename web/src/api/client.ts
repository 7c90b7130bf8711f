import createClient from "openapi-fetch";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type Estimate = Schemas["Estimate"];
export type Panel = Schemas["Panel"];
export type Car = Schemas["Car"];
export type CarSummary = Schemas["CarSummary"];
export type Point = Schemas["Point"];
export type Place = Schemas["Place"];
export type Section = Schemas["Section"];
export type State = Schemas["State"];
export type Reading = Schemas["Reading"];
export type Read = Schemas["Read"];
export type Plan = Schemas["Plan"];
export type Step = Schemas["Step"];
export type Level = Schemas["Level"];
export type Hand = Schemas["Hand"];
export type Entry = Schemas["Entry"];
export type FilmMap = Schemas["FilmMap"];
export type Problem = Schemas["Problem"];
export type Body = Schemas["Body"];
export type BodyPanel = Schemas["BodyPanel"];
export type PanelFacts = Schemas["PanelFacts"];
export type Look = Schemas["Look"];
export type Mark = Schemas["Mark"];
export type Marked = Schemas["Marked"];
export type MarkKind = Schemas["MarkKind"];
export type MarkSizes = Schemas["MarkSizes"];
export type Probe = Schemas["Probe"];
export type Shot = Schemas["Shot"];
export type Gauge = Schemas["Gauge"];
export type Zone = Schemas["Zone"];
export type Tally = Schemas["Tally"];

/** What a photo of a panel shows, and who took it. */
export interface ProofAsk {
  kind: Schemas["PhotoKind"];
  person: string;
  section?: string;
  after?: boolean;
}

/** ms after which something sent counts as not answered: a photo is larger, and is read before the answer; a whole car or shop takes its time. */
const patience = 20_000;
const patienceForPhotos = 90_000;
const patienceForShops = 900_000;

function patienceFor(url: string): number {
  if (/\/api\/(imports|backups|verify)\b/.test(url)) return patienceForShops;
  return /\/(photos|camera)\b/.test(url) ? patienceForPhotos : patience;
}

/** Gives up on what is sent and not answered; a question may wait for news. */
async function timed(request: Request): Promise<Response> {
  if (request.method === "GET") return fetch(request);
  const stop = new AbortController();
  const timer = window.setTimeout(() => stop.abort(), patienceFor(request.url));
  try {
    return await fetch(request, { signal: stop.signal });
  } finally {
    window.clearTimeout(timer);
  }
}

const client = createClient<paths>({ baseUrl: "/api", fetch: timed });

/** What went wrong, as the server says it, for people to read. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }

  /** The server has understood and says no: sending it again would change nothing. */
  get refused(): boolean {
    const { status } = this.problem;
    return status >= 400 && status < 500 && status !== 408 && status !== 429;
  }
}

const silent: Problem = {
  type: "about:blank",
  title: "no answer",
  status: 0,
  detail: "The shop server does not answer. Nothing typed is lost; try again when it is back.",
};

/** An answer that is neither what was asked for nor a problem in words. */
const failed: Problem = {
  type: "about:blank",
  title: "no proper answer",
  status: 500,
  detail: "The shop server failed over this. Nothing typed is lost; try again.",
};

async function answer<T>(call: Promise<{ data?: T; error?: unknown }>): Promise<T> {
  let result: { data?: T; error?: unknown };
  try {
    result = await call;
  } catch {
    throw new Refusal(silent);
  }
  if (result.data === undefined) {
    const problem = result.error as Partial<Problem> | undefined;
    throw new Refusal(problem?.detail ? (problem as Problem) : failed);
  }
  return result.data;
}

/** A request that answers with nothing. */
const done = (call: Promise<{ error?: unknown; response: Response }>) =>
  answer(call.then((r) => (r.response.ok ? { data: true } : { error: r.error })));

const mark = (markId: string) => ({ params: { path: { markId } } });
const proofPhoto = (photoId: string) => ({ params: { path: { photoId } } });
const panel = (panelId: string) => ({ params: { path: { panelId } } });

export const api = {
  cars: (query: { cursor?: string; search?: string; handed_over?: boolean }) => answer(client.GET("/cars", { params: { query } })),
  handover: (carId: string) => answer(client.GET("/cars/{carId}/handover", { params: { path: { carId } } })),
  handOver: (carId: string, body: Schemas["NewHandover"]) => answer(client.POST("/cars/{carId}/handover", { params: { path: { carId } }, body })),
  reopenCar: (carId: string, body: Schemas["Reopening"]) => answer(client.POST("/cars/{carId}/reopen", { params: { path: { carId } }, body })),
  forgetOwner: (carId: string, body: Schemas["Forgetting"]) => answer(client.POST("/cars/{carId}/forget", { params: { path: { carId } }, body })),
  setReport: (carId: string, body: Schemas["ReportChoices"]) => answer(client.PUT("/cars/{carId}/report", { params: { path: { carId } }, body })),
  /** One page of a paper, as it prints, as the text of an SVG. */
  paperPage: (carId: string, paper: "report.svg" | "record.svg", page: number) => answer(client.GET("/cars/{carId}/papers/{paper}", { params: { path: { carId, paper }, query: { page } }, parseAs: "text" })) as unknown as Promise<string>,
  search: (q: string) => answer(client.GET("/search", { params: { query: { q } } })),
  receiveCar: (file: Blob) => answer(client.POST("/imports", { body: file as never, bodySerializer: (b: unknown) => b as Blob, headers: { "Content-Type": "application/octet-stream" } })),
  keepCar: (importId: string, as: "new" | "same") => answer(client.POST("/imports/{importId}", { params: { path: { importId } }, body: { as } })),
  dropImport: (importId: string) => answer(client.DELETE("/imports/{importId}", { params: { path: { importId } } })),
  backups: () => answer(client.GET("/backups")),
  makeBackup: () => answer(client.POST("/backups")),
  setBackups: (body: Schemas["BackupRule"]) => answer(client.PUT("/backups", { body })),
  checkBackup: (name: string) => answer(client.POST("/backups/{name}/check", { params: { path: { name } } })),
  verify: () => answer(client.POST("/verify")),
  care: () => answer(client.GET("/care")),
  setCare: (body: Schemas["CareRule"]) => answer(client.PUT("/care", { body })),
  setLogo: (file: Blob) => answer(client.PUT("/shop/logo", { body: file as never, bodySerializer: (b: unknown) => b as Blob, headers: { "Content-Type": "application/octet-stream" } })),
  dropLogo: () => answer(client.DELETE("/shop/logo")),
  takeIn: (body: Schemas["NewCar"]) => answer(client.POST("/cars", { body })),
  car: (carId: string) => answer(client.GET("/cars/{carId}", { params: { path: { carId } } })),
  changeCar: (carId: string, body: Schemas["CarFacts"]) =>
    answer(client.PATCH("/cars/{carId}", { params: { path: { carId } }, body })),
  changePanels: (carId: string, keys: string[], facts: PanelFacts) =>
    answer(client.PATCH("/cars/{carId}/panels", { params: { path: { carId } }, body: { keys, facts } })),
  tick: (carId: string, body: Schemas["TaskTick"]) =>
    answer(client.POST("/cars/{carId}/checklist", { params: { path: { carId } }, body })),
  say: (carId: string, body: Schemas["Said"]) =>
    answer(client.POST("/cars/{carId}/said", { params: { path: { carId } }, body })),
  bodies: () => answer(client.GET("/bodies")),
  body: (type: string, query: { length_mm?: number; width_mm?: number; height_mm?: number }) =>
    answer(client.GET("/bodies/{type}", { params: { path: { type }, query } })),
  checkOutline: (body: Schemas["OutlineFile"]) => answer(client.POST("/outlines/check", { body })),
  guess: (colour: Schemas["Colour"], facts: PanelFacts) => answer(client.POST("/guess", { body: { colour, facts } })),
  check: (body: Schemas["CheckFor"]) => answer(client.POST("/check", { body })),
  condition: (id: string, query: { swirls?: Schemas["Swirls"]; dead?: Schemas["Dead"] }) => answer(client.GET("/panels/{panelId}/condition", { params: { path: { panelId: id }, query } })),
  look: (id: string) => answer(client.GET("/panels/{panelId}/look", panel(id))),
  addMark: (id: string, body: Schemas["NewMark"]) =>
    answer(client.POST("/panels/{panelId}/marks", { ...panel(id), body })),
  changeMark: (markId: string, body: Schemas["MarkChange"]) =>
    answer(client.PATCH("/marks/{markId}", { ...mark(markId), body })),
  strikeMark: (markId: string, reason: string) =>
    answer(client.POST("/marks/{markId}/strike", { ...mark(markId), body: { reason } })),
  restoreMark: (markId: string) => answer(client.POST("/marks/{markId}/restore", mark(markId))),
  mirrorMark: (markId: string, id: string) =>
    answer(client.POST("/marks/{markId}/mirror", { ...mark(markId), body: { id } })),
  closeMark: (markId: string, body: Schemas["MarkClose"]) =>
    answer(client.POST("/marks/{markId}/close", { ...mark(markId), body })),
  putPhoto: (markId: string, photo: File) =>
    answer(
      client.PUT("/marks/{markId}/photo", {
        ...mark(markId),
        body: photo as unknown as string,
        bodySerializer: () => photo,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  proof: (id: string) => answer(client.GET("/panels/{panelId}/prove", panel(id))),
  carProof: (carId: string) => answer(client.GET("/cars/{carId}/prove", { params: { path: { carId } } })),
  addPhoto: (panelId: string, query: ProofAsk & { id: string }, photo: File) =>
    answer(
      client.POST("/panels/{panelId}/photos", {
        params: { path: { panelId }, query },
        body: photo as unknown as string,
        bodySerializer: () => photo,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    ),
  readPhoto: (photoId: string, body: Schemas["Take"]) => answer(client.POST("/photos/{photoId}/read", { ...proofPhoto(photoId), body })),
  acceptPhoto: (photoId: string, person: string, accept: boolean) => answer(client.POST("/photos/{photoId}/accept", { ...proofPhoto(photoId), body: { person, accept } })),
  strikePhoto: (photoId: string, reason: string) => answer(client.POST("/photos/{photoId}/strike", { ...proofPhoto(photoId), body: { reason } })),
  photosKept: () => answer(client.GET("/photos")),
  setPhotoRule: (body: Schemas["PhotoRule"]) => answer(client.PUT("/photos", { body })),
  dropPhotos: () => answer(client.POST("/photos/drop")),
  lamps: () => answer(client.GET("/lamps")),
  setLamp: (body: Schemas["Lamp"]) => answer(client.PUT("/lamps", { body })),
  addMeter: (id: string, body: Schemas["NewMeterRead"]) => done(client.POST("/panels/{panelId}/meters", { ...panel(id), body })),
  strikeMeter: (meterId: string, reason: string) => done(client.POST("/meters/{meterId}/strike", { params: { path: { meterId } }, body: { reason } })),
  closeMarks: (id: string, body: Schemas["MarksClose"]) => done(client.POST("/panels/{panelId}/marks/close", { ...panel(id), body })),
  addProof: (id: string, body: Schemas["NewProof"]) => answer(client.POST("/panels/{panelId}/proofs", { ...panel(id), body })),
  strikeProof: (proofId: string, reason: string) => done(client.POST("/proofs/{proofId}/strike", { params: { path: { proofId } }, body: { reason } })),
  camera: () => answer(client.GET("/camera")),
  pullPhoto: (id: string, body: Schemas["PullPhoto"]) => answer(client.POST("/panels/{panelId}/camera", { ...panel(id), body })),
  pullMeter: (id: string, body: Schemas["PullMeter"]) => done(client.POST("/panels/{panelId}/camera/meter", { ...panel(id), body })),
  changePanel: (id: string, body: Schemas["PanelFacts"]) =>
    answer(client.PATCH("/panels/{panelId}", { ...panel(id), body })),
  read: (id: string) => answer(client.GET("/panels/{panelId}/read", panel(id))),
  place: (panelId: string, x_mm: number, y_mm: number) =>
    answer(client.GET("/panels/{panelId}/place", { params: { path: { panelId }, query: { x_mm, y_mm } } })),
  addReading: (id: string, body: Schemas["NewReading"]) =>
    answer(client.POST("/panels/{panelId}/readings", { ...panel(id), body })),
  strikeReading: (readingId: string, reason: string) =>
    answer(client.POST("/readings/{readingId}/strike", { params: { path: { readingId } }, body: { reason } })),
  previewImport: (id: string, body: Schemas["ImportFile"]) =>
    answer(client.POST("/panels/{panelId}/import/preview", { ...panel(id), body })),
  confirmImport: (id: string, body: Schemas["ImportFile"]) =>
    answer(client.POST("/panels/{panelId}/import", { ...panel(id), body })),
  previewCarImport: (carId: string, body: Schemas["ImportFile"]) =>
    answer(client.POST("/cars/{carId}/import/preview", { params: { path: { carId } }, body })),
  confirmCarImport: (carId: string, body: Schemas["ImportFile"]) =>
    answer(client.POST("/cars/{carId}/import", { params: { path: { carId } }, body })),
  setZones: (id: string, zones: Zone[]) =>
    answer(client.PUT("/panels/{panelId}/zones", { ...panel(id), body: { zones } })),
  shop: () => answer(client.GET("/shop")),
  setShop: (body: Schemas["NewShop"]) => answer(client.PUT("/shop", { body })),
  gauges: () => answer(client.GET("/gauges")),
  checkGauge: (gaugeId: string, body: Schemas["NewCheck"]) =>
    answer(client.POST("/gauges/{gaugeId}/checks", { params: { path: { gaugeId } }, body })),
  studyGauge: (gaugeId: string, body: Schemas["NewStudy"]) =>
    answer(client.POST("/gauges/{gaugeId}/study", { params: { path: { gaugeId } }, body })),
  probe: (seen: number, signal: AbortSignal) =>
    answer(client.GET("/probe", { params: { query: { seen } }, signal })),
  aimProbe: (body: Schemas["ProbeSpot"]) => done(client.PUT("/probe/spot", { body })),
  dropShot: (shotId: string) => done(client.POST("/probe/shots/{shotId}/drop", { params: { path: { shotId } } })),
  plan: (panelId: string, ladder: string, gone?: number) =>
    answer(client.GET("/panels/{panelId}/plan", { params: { path: { panelId }, query: { ...(ladder ? { ladder } : {}), ...(gone === undefined ? {} : { gone }) } } })),
  setPart: (id: string, body: Schemas["Part"]) => answer(client.PUT("/panels/{panelId}/parts", { ...panel(id), body })),
  addSquare: (id: string, body: Schemas["NewSquare"]) =>
    answer(client.POST("/panels/{panelId}/squares", { ...panel(id), body })),
  acceptPlan: (id: string, body: Schemas["AcceptPlan"]) =>
    answer(client.POST("/panels/{panelId}/plan", { ...panel(id), body })),
  agreeFloor: (id: string, body: Schemas["NewFloor"]) =>
    answer(client.POST("/panels/{panelId}/floor", { ...panel(id), body })),
  strikeFloor: (floorId: string, reason: string) =>
    done(client.POST("/floors/{floorId}/strike", { params: { path: { floorId } }, body: { reason } })),
  addTry: (id: string, body: Schemas["NewTry"]) =>
    answer(client.POST("/panels/{panelId}/tries", { ...panel(id), body })),
  strikeSquare: (squareId: string, reason: string) => done(client.POST("/squares/{squareId}/strike", { params: { path: { squareId } }, body: { reason } })),
  useTry: (tryId: string) => answer(client.POST("/tries/{tryId}/use", { params: { path: { tryId } } })),
  strikeTry: (tryId: string, reason: string) =>
    done(client.POST("/tries/{tryId}/strike", { params: { path: { tryId } }, body: { reason } })),
  offers: (carId: string) => answer(client.GET("/cars/{carId}/offers", { params: { path: { carId } } })),
  budget: (carId: string, asked: { hours?: number; money?: number }) => answer(client.GET("/cars/{carId}/budget", { params: { path: { carId }, query: asked } })),
  went: (carId: string) => answer(client.GET("/cars/{carId}/went", { params: { path: { carId } } })),
  sayTime: (carId: string, body: Schemas["SaidTime"]) => answer(client.PUT("/cars/{carId}/went", { params: { path: { carId } }, body })),
  takeUsed: (carId: string, body: Schemas["UsedTaken"]) => answer(client.POST("/cars/{carId}/used", { params: { path: { carId } }, body })),
  takeOffer: (carId: string, body: Schemas["TakenOffer"]) => answer(client.POST("/cars/{carId}/offers", { params: { path: { carId } }, body })),
  carPlans: (carId: string) => answer(client.GET("/cars/{carId}/plans", { params: { path: { carId } } })),
  schools: (carId: string, question: string) =>
    answer(client.GET("/cars/{carId}/schools", { params: { path: { carId }, query: { question } } })),
  rules: () => answer(client.GET("/rules")),
  setRule: (body: Schemas["RuleChoice"]) => answer(client.PUT("/rules", { body })),
  shelf: (pick: string) => answer(client.GET("/shelf", { params: { query: pick ? { pick } : {} } })),
  setConstant: (body: Schemas["ConstantChange"]) => done(client.PUT("/shelf", { body })),
  level: (panelId: string, section: string, person: string) =>
    answer(client.GET("/panels/{panelId}/level", { params: { path: { panelId }, query: { ...(section ? { section } : {}), ...(person ? { person } : {}) } } })),
  people: () => answer(client.GET("/people")),
  setHours: (body: Schemas["PersonHours"]) => answer(client.PUT("/people/hours", { body })),
  press: (backing: string, kg: number) => answer(client.GET("/press", { params: { query: { backing, kg } } })),
  stock: () => answer(client.GET("/stock")),
  moveStock: (body: Schemas["StockMove"]) => answer(client.POST("/stock", { body })),
  week: (anew = false) => answer(client.GET("/week", { params: { query: anew ? { anew } : {} } })),
  moveTask: (body: Schemas["TaskMove"]) => answer(client.POST("/week/moves", { body })),
  letTask: (task: string) => answer(client.POST("/week/let", { body: { task } })),
  setPromise: (carId: string, due_at: string | undefined) => done(client.PUT("/cars/{carId}/promise", { params: { path: { carId } }, body: due_at ? { due_at } : {} })),
  workshop: () => answer(client.GET("/shop/work")),
  setWorkshop: (body: Schemas["Workshop"]) => answer(client.PUT("/shop/work", { body })),
  setPerson: (body: Schemas["PersonChange"]) => answer(client.PUT("/people", { body })),
  addEntry: (id: string, body: Schemas["NewEntry"]) =>
    answer(client.POST("/panels/{panelId}/log", { ...panel(id), body })),
  strikeEntry: (entryId: string, reason: string) =>
    answer(client.POST("/log/{entryId}/strike", { params: { path: { entryId } }, body: { reason } })),
};

/** An id made here, so that a request sent twice counts once. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}
