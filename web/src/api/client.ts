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

const client = createClient<paths>({ baseUrl: "/api" });

/** What went wrong, as the server says it, for people to read. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const silent: Problem = {
  type: "about:blank",
  title: "no answer",
  status: 0,
  detail: "The bench server does not answer. Nothing typed is lost; try again when it is back.",
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
    throw new Refusal(problem?.detail ? (problem as Problem) : silent);
  }
  return result.data;
}

const panel = (panelId: string) => ({ params: { path: { panelId } } });

export const api = {
  cars: () => answer(client.GET("/cars")),
  takeIn: (body: Schemas["NewCar"]) => answer(client.POST("/cars", { body })),
  car: (carId: string) => answer(client.GET("/cars/{carId}", { params: { path: { carId } } })),
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
  plan: (id: string) => answer(client.GET("/panels/{panelId}/plan", panel(id))),
  acceptPlan: (id: string, basis: string) =>
    answer(client.POST("/panels/{panelId}/plan", { ...panel(id), body: { basis } })),
  level: (panelId: string, section: string) =>
    answer(client.GET("/panels/{panelId}/level", { params: { path: { panelId }, query: section ? { section } : {} } })),
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
