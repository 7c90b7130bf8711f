import { Dialog } from "@mui/material";
import { useState } from "react";
import { Notice } from "../../shell/Notice";

const shares = [0, 3, 10, 20, 30, 50, 70, 90];

/** How much still shines on a dry wipe: one press, or typed. */
export function ShinyDialog({ pays, close, see }: { pays: boolean; close: () => void; see: (share: number) => void }) {
  return (
    <Dialog open onClose={close} aria-labelledby="shiny" maxWidth={false}>
      <div style={{ padding: "24px 28px", width: 560, maxWidth: "100%", display: "grid", gap: 14 }}>
        <h2 id="shiny" className="t" style={{ fontSize: 24, lineHeight: "30px" }}>
          How much still shines?
        </h2>
        <p className="s">Wipe the section dry and look along the lamp: shiny specks are low spots that the paper has not touched.{pays ? "" : " On this backing the shine goes long before the peel: it is kept, and decides nothing."}</p>
        <div style={{ display: "grid", gridTemplateColumns: "repeat(4,1fr)", gap: 10 }}>
          {shares.map((v, i) => (
            <button key={v} type="button" className="key" style={{ minHeight: 72, fontSize: 22 }} autoFocus={i === 0} onClick={() => see(v / 100)}>
              {v === 0 ? "none" : `${v} %`}
            </button>
          ))}
        </div>
        <div style={{ display: "flex", justifyContent: "flex-end" }}>
          <button type="button" className="key q" onClick={close}>
            Not now
          </button>
        </div>
      </div>
    </Dialog>
  );
}

/** One pass over the stop: somebody answers for it by name, with a reason. */
export function OverDialog({ person, close, over }: { person: string; close: () => void; over: (name: string, reason: string) => void }) {
  const [name, setName] = useState(person);
  const [reason, setReason] = useState("");
  const [fault, setFault] = useState("");
  return (
    <Dialog open onClose={close} aria-labelledby="over" maxWidth={false}>
      <form
        style={{ padding: "24px 28px", width: 520, maxWidth: "100%", display: "grid", gap: 14 }}
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim() === "" || reason.trim().length < 5) setFault("One pass over the stop needs a name and a reason of at least 5 letters.");
          else over(name.trim(), reason.trim());
        }}
      >
        <h2 id="over" className="t" style={{ fontSize: 24, lineHeight: "30px" }}>
          One pass over the stop
        </h2>
        <p className="s">It is one pass, not a switch: each further one asks again. Name, reason and the film at this moment stay on record and print in both sheets.</p>
        <label>
          <span className="lab">who answers for it</span>
          <input className="textline" value={name} maxLength={40} onChange={(e) => setName(e.target.value)} />
        </label>
        <label>
          <span className="lab">why</span>
          <input className="textline" value={reason} maxLength={200} autoFocus onChange={(e) => setReason(e.target.value)} />
        </label>
        {fault ? <Notice text={fault} /> : null}
        <div style={{ display: "flex", gap: 10, justifyContent: "flex-end" }}>
          <button type="button" className="key q" onClick={close}>
            Not now
          </button>
          <button type="submit" className="key">
            Count one pass
          </button>
        </div>
      </form>
    </Dialog>
  );
}
