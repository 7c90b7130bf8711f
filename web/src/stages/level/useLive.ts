import { useEffect, useRef, useState } from "react";
import { useChanged } from "../../api/queries";
import { newId, type Schemas } from "../../api/client";

const place = "waxplanus.device";

/** Which device this is: one name for each tab. */
function device(): string {
  const kept = sessionStorage.getItem(place);
  if (kept) return kept;
  const made = newId();
  sessionStorage.setItem(place, made);
  return made;
}

/** Looks again when more was kept than is known here, and knows who else is on the panel. */
export function useLive(panelId: string, section: string, person: string, known: number | undefined): Schemas["Beside"][] {
  const changed = useChanged();
  const [others, setOthers] = useState<Schemas["Beside"][]>([]);
  const seen = useRef(known);
  useEffect(() => {
    seen.current = known;
  });
  useEffect(() => {
    if (section === "" || person === "") return undefined;
    const query = new URLSearchParams({ device: device(), section, person });
    const stream = new EventSource(`/api/panels/${encodeURIComponent(panelId)}/events?${query.toString()}`);
    stream.onmessage = (event) => {
      const news = JSON.parse(String(event.data)) as Schemas["News"];
      setOthers(news.others);
      if (news.changes !== seen.current) void changed("panel");
    };
    return () => stream.close();
  }, [panelId, section, person, changed]);
  return others;
}
