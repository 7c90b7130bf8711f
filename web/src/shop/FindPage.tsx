import { Box, Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useSearch } from "../api/queries";
import type { Schemas } from "../api/client";
import { Page } from "../app/Page";
import { count } from "../app/format";
import { useKeys } from "../app/keys";
import { useUnits } from "../app/units";
import { Field } from "../ui/Field";
import { Notice } from "../ui/Notice";

type Found = Schemas["FoundThing"];

/** How long after the last letter somebody has finished typing, ms. */
const pause = 250;

/** Finds cars, here and handed over, by all that was said, marked and read. */
export default function FindPage() {
  const u = useUnits();
  const go = useNavigate();
  const [params, setParams] = useSearchParams();
  const q = params.get("q") ?? "";
  const [typed, setTyped] = useState(q);
  const field = useRef<HTMLInputElement>(null);
  const query = useSearch(q);
  useEffect(() => {
    const timer = window.setTimeout(() => {
      if (typed.trim() !== q) setParams(typed.trim() ? { q: typed.trim() } : {}, { replace: true });
    }, pause);
    return () => window.clearTimeout(timer);
  }, [typed, q, setParams]);
  useKeys({ "/": () => field.current?.focus(), Escape: () => void go("/") });
  const found = q ? (query.data ?? []) : [];
  const cars = new Map<string, Found[]>();
  for (const f of found) cars.set(f.car_id, [...(cars.get(f.car_id) ?? []), f]);
  return (
    <Page title="Find" sub="cars here and handed over" home="/" who="the shop" query={{ error: null, isPending: false, refetch: query.refetch }} keys={[{ keys: "/", does: "type what to look for" }, { keys: "Esc", does: "back to Today" }]}>
      <Box sx={{ maxWidth: 760, padding: "16px 0" }}>
        <Field label="a car, the owner's words, a mark, why a reading was struck out, or a film" value={typed} most={80} autoFocus inputRef={field} placeholder="door, tape, 84" onChange={(e) => setTyped(e.target.value)} />
        {query.error ? <Notice text={query.error.message} /> : null}
        {q && query.data && found.length === 0 ? (
          <p>
            Nothing begins with “{q}” in what was said, marked or read.{" "}
            <Button variant="link" onClick={() => setTyped("")}>
              Look for something else
            </Button>
          </p>
        ) : null}
        {q ? null : <p className="s">All words have to begin so. Cars that were handed over are found too: their film record stays.</p>}
        <ul style={{ listStyle: "none", margin: "8px 0 0", padding: 0 }} aria-label="What was found">
          {[...cars].map(([id, list]) => (
            <Box component="li" key={id} sx={{ padding: "10px 0", borderBottom: "1px solid var(--line)" }}>
              <Box component={Link} to={`/cars/${encodeURIComponent(id)}`} className="t" sx={{ fontSize: 19, lineHeight: "26px", color: "inherit" }}>
                {list[0]?.car_name}
              </Box>{" "}
              <span className="s">{list[0]?.handed_over_at ? `handed over ${u.date(new Date(list[0].handed_over_at))}` : "in the shop"}</span>
              <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
                {list
                  .filter((f) => f.kind !== "car")
                  .slice(0, 6)
                  .map((f) => (
                    <li key={f.kind + f.ref}>
                      <Box component={Link} to={f.link} sx={{ display: "inline-block", padding: "5px 0", color: "inherit" }}>
                        {f.panel_name ? `${f.panel_name}: ` : ""}
                        {f.text}
                      </Box>
                    </li>
                  ))}
                {list.length > 7 ? <li className="s">and {count(list.length - 7, "more place")} of this car</li> : null}
              </Box>
            </Box>
          ))}
        </ul>
      </Box>
    </Page>
  );
}
