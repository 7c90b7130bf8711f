import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { scaleLog } from "d3-scale";
import { useState } from "react";
import { useChanged, usePeople } from "../api/queries";
import { Field, Pick } from "../ui/Field";
import { api, type Schemas } from "../api/client";
import { Notice } from "../ui/Notice";
import { Page } from "../app/Page";
import { HandsFrame } from "./HandsFrame";
import { PaceLines } from "./PaceLines";
import { PersonHours } from "./PersonHours";
import { PressCheck } from "./PressCheck";

type Learned = Schemas["Learned"];

const w = 260;
const x = scaleLog([0.5, 2], [0, w]).clamp(true);

/** How many times the usual something cuts, with its doubt, on a line from a half to twice. */
function Times({ of }: { of: Learned }) {
  const { mean, sd } = of.times;
  return (
    <svg width={w} height="30" viewBox={`0 0 ${w} 30`} role="img" aria-label={`${mean.toFixed(2)} ± ${sd.toFixed(2)} times`}>
      <path d={`M0 15H${w}M${x(1)} 5V25`} stroke="var(--lineStrong)" />
      <path d={`M${x(mean - sd)} 15H${x(mean + sd)}`} stroke="var(--ink)" strokeWidth="6" opacity={of.readings > 0 ? 0.45 : 0.18} />
      {of.readings > 0 ? <path d={`M${x(mean)} 6V24`} stroke="var(--ink)" strokeWidth="4" /> : null}
    </svg>
  );
}

function Line({ of }: { of: Learned }) {
  return (
    <>
      <TableCell>
        <Times of={of} />
      </TableCell>
      <TableCell className="n" sx={{ textAlign: "right", whiteSpace: "nowrap" }}>
        {of.times.mean.toFixed(2)} ± {of.times.sd.toFixed(2)}
      </TableCell>
      <TableCell className="s">{of.text}</TableCell>
    </>
  );
}

/** Who works here, what grits they may run, and what readings tell of their cut. */
export default function HandsPage() {
  const query = usePeople();
  const changed = useChanged();
  const [name, setName] = useState("");
  const set = useMutation({ mutationFn: api.setPerson, onSettled: () => changed("house") });
  const [of, setOf] = useState("");
  const hands = query.data;
  const person = hands?.people.find((p) => p.name === of);
  return (
    <Page
      title="Hands"
      sub={hands ? `${hands.people.length} people` : ""}
      home="/"
      who="the shop"
      middle={
        <Box sx={{ paddingTop: 15 }}>
          <Box className="t" sx={{ fontSize: 20, lineHeight: "23px" }}>
            Who may run what, and how they cut
          </Box>
          <div className="s">times the cut that the shelf says, as readings after passes tell</div>
        </Box>
      }
      query={query}
      keys={[]}
    >
      {hands ? (
        <HandsFrame>
          <section aria-label="People">
            <h2 className="heading t">
              People <span className="s">a tap in Level carries a name; a grit that somebody may not run is not offered</span>
            </h2>
            <Table wide>
              <TableHead>
                <TableRow>
                  <TableCell>name</TableCell>
                  <TableCell>may run</TableCell>
                  <TableCell>works</TableCell>
                  <TableCell>half of the usual to twice</TableCell>
                  <TableCell sx={{ textAlign: "right" }}>times</TableCell>
                  <TableCell />
                </TableRow>
              </TableHead>
              <TableBody>
                {hands.people.map((p) => (
                  <TableRow key={p.name}>
                    <TableCell className="b">{p.name}</TableCell>
                    <TableCell sx={{ minWidth: { md: 132 } }}>
                      <Pick label={`What ${p.name} may run`} silent value={p.coarsest} set={(coarsest) => set.mutate({ name: p.name, coarsest, was: p.coarsest })}>
                        <option value="">any grit</option>
                        {hands.grits.map((g) => (
                          <option key={g} value={g}>
                            {g} and finer
                          </option>
                        ))}
                      </Pick>
                    </TableCell>
                    <TableCell sx={{ minWidth: 150 }}>
                      <Button variant="link" onClick={() => setOf(p.name)} aria-label={`When ${p.name} works: ${p.hours_text}`} sx={{ textAlign: "left" }}>
                        {p.hours_text}
                      </Button>
                    </TableCell>
                    <Line of={p.cut} />
                  </TableRow>
                ))}
              </TableBody>
            </Table>
            {person ? <PersonHours key={person.name} person={person} tasks={hands?.tasks ?? []} close={() => setOf("")} /> : null}
            <Box component="form"
              sx={{ display: "flex", gap: 10, marginTop: 14, alignItems: "flex-end", maxWidth: 460 }}
              onSubmit={(e) => {
                e.preventDefault();
                set.mutate({ name }, { onSuccess: () => setName("") });
              }}
            >
              <Field label="somebody more" value={name} most={40} placeholder="a name" onChange={(e) => setName(e.target.value)} />
              <Button type="submit" sx={{ whiteSpace: "nowrap" }} disabled={name.trim() === "" || set.isPending}>
                Take in
              </Button>
            </Box>
            {set.error ? <Notice text={set.error.message} /> : null}
          </section>
          <PaceLines paces={hands.paces} />
          <PressCheck backings={hands.backings} />
          <section aria-label="Abrasives">
            <h2 className="heading t">
              Abrasives and compounds <span className="s">those that were read after passes</span>
            </h2>
            {hands.abrasives.length === 0 ? (
              <p className="s">Nothing was read after passes yet. Read the gauge between passes in Level, at spots that were read before: both the hand and the grit are learned from it.</p>
            ) : (
              <Table wide>
                <TableBody>
                  {hands.abrasives.map((a) => (
                    <TableRow key={a.name}>
                      <TableCell className="b">{a.name}</TableCell>
                      <Line of={a} />
                    </TableRow>
                  ))}
                </TableBody>
              </Table>
            )}
            <Box component="p" className="s" sx={{ marginTop: 10 }}>
              Person, paint, abrasive and step share what is seen: the fit is made from all readings at once and is the same in any order. A reading that is far off counts less.
            </Box>
          </section>
        </HandsFrame>
      ) : null}
    </Page>
  );
}
