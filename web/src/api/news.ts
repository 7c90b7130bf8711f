import { useEffect, useRef } from "react";
import type { Schemas } from "./client";

export type News = Schemas["News"];

/** Listens to what the shop server tells of a panel, a car or the list, while the page is open. */
export function useNews(path: string | null, told: (news: News) => void): void {
  const latest = useRef(told);
  useEffect(() => {
    latest.current = told;
  });
  useEffect(() => {
    if (path === null) return undefined;
    const stream = new EventSource(`/api${path}`);
    stream.onmessage = (event) => latest.current(JSON.parse(String(event.data)) as News);
    return () => stream.close();
  }, [path]);
}
