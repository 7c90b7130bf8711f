import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../api/client";
import { Notice } from "../ui/Notice";
import { Page } from "../app/Page";

type Learned = Schemas["Learned"];

const w = 260;
const most = 2;

/** How many times the usual something cuts, with its doubt, on a line from a half to twice. */
function Times({ of }: { of: Learned }) {
  const x = (v: number) => ((Math.log2(Math.min(Math.max(v, 1 / most), most)) + 1) / 2) * w;
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
      <td>
        <Times of={of} />
      </td>
      <td className="n" style={{ textAlign: "right", whiteSpace: "nowrap" }}>
        {of.times.mean.toFixed(2)} ± {of.times.sd.toFixed(2)}
      </td>
      <td className="s">{of.text}</td>
    </>
  );
}

/** Who works here, what grits they may run, and what readings tell of their cut. */
export default function HandsPage() {
  const query = useQuery({ queryKey: ["people"], queryFn: api.people });
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const set = useMutation({ mutationFn: api.setPerson, onSettled: () => queries.invalidateQueries() });
  const hands = query.data;
  return (
    <Page
      title="Hands"
      sub={hands ? `${hands.people.length} people` : ""}
      home="/"
      who="the shop"
      middle={
        <div style={{ paddingTop: 15 }}>
          <div className="t" style={{ fontSize: 20, lineHeight: "23px" }}>
            Who may run what, and how they cut
          </div>
          <div className="s">times the cut that the shelf says, as readings after passes tell</div>
        </div>
      }
      query={query}
      keys={[]}
    >
      {hands ? (
        <div className="hands">
          <section aria-label="People">
            <h2 className="heading t">
              People <span className="s">a tap in Level carries a name; a grit that somebody may not run is not offered</span>
            </h2>
            <table className="records">
              <thead>
                <tr>
                  <th>name</th>
                  <th>may run</th>
                  <th>half of the usual to twice</th>
                  <th style={{ textAlign: "right" }}>times</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                {hands.people.map((p) => (
                  <tr key={p.name}>
                    <td className="b">{p.name}</td>
                    <td>
                      <select className="textline" aria-label={`What ${p.name} may run`} value={p.coarsest} onChange={(e) => set.mutate({ name: p.name, coarsest: e.target.value })}>
                        <option value="">any grit</option>
                        {hands.grits.map((g) => (
                          <option key={g} value={g}>
                            {g} and finer
                          </option>
                        ))}
                      </select>
                    </td>
                    <Line of={p.cut} />
                  </tr>
                ))}
              </tbody>
            </table>
            <form
              style={{ display: "flex", gap: 10, marginTop: 14, alignItems: "flex-end", maxWidth: 460 }}
              onSubmit={(e) => {
                e.preventDefault();
                set.mutate({ name }, { onSuccess: () => setName("") });
              }}
            >
              <label style={{ flex: 1 }}>
                <span className="lab">somebody more</span>
                <input className="textline" value={name} maxLength={40} placeholder="a name" onChange={(e) => setName(e.target.value)} />
              </label>
              <button type="submit" className="key" disabled={name.trim() === "" || set.isPending}>
                Take in
              </button>
            </form>
            {set.error ? <Notice text={set.error.message} /> : null}
          </section>
          <section aria-label="Abrasives">
            <h2 className="heading t">
              Abrasives and compounds <span className="s">those that were read after passes</span>
            </h2>
            {hands.abrasives.length === 0 ? (
              <p className="s">Nothing was read after passes yet. Read the gauge between passes in Level, at spots that were read before: both the hand and the grit are learned from it.</p>
            ) : (
              <table className="records">
                <tbody>
                  {hands.abrasives.map((a) => (
                    <tr key={a.name}>
                      <td className="b">{a.name}</td>
                      <Line of={a} />
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            <p className="s" style={{ marginTop: 10 }}>
              Person, paint, abrasive and step share what is seen: the fit is made from all readings at once and is the same in any order. A reading far off counts by its distance only.
            </p>
          </section>
        </div>
      ) : null}
    </Page>
  );
}
