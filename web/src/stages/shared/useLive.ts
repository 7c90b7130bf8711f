import { useState } from "react";
import { useNews } from "../../api/news";
import { useTouched } from "../../api/queries";
import type { Panel, Schemas } from "../../api/client";
import { screenName } from "../../outbox/name";

/** Looks again when more of the panel was kept than is known here, and knows who else works on it. */
export function useLive(panelId: string, panel: Panel | undefined, section = "", person = ""): Schemas["Beside"][] {
  const touched = useTouched();
  const [others, setOthers] = useState<Schemas["Beside"][]>([]);
  const query = new URLSearchParams({ device: screenName(), ...(section ? { section, person } : {}) });
  useNews(panel ? `/panels/${encodeURIComponent(panelId)}/events?${query.toString()}` : null, (news) => {
    setOthers(news.others);
    if (panel && (news.house || news.version !== panel.version)) void touched({ panel: panelId, car: panel.car_id });
  });
  return others;
}
