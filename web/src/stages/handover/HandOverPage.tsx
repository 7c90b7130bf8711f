import { Box, Button } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, type Schemas } from "../../api/client";
import { useNews } from "../../api/news";
import { keys, useCar, useHandover, useTouched } from "../../api/queries";
import { Page } from "../../app/Page";
import { useKeys } from "../../app/keys";
import { carNotes } from "../../app/stageNotes";
import { Choice } from "../../ui/Choice";
import { Pick, Tick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { CareAsk, ForgetAsk, HandOverAsk, ReopenAsk } from "./Asks";
import { FilesAsk } from "./FilesAsk";
import { HandFrame } from "./HandFrame";
import { Paper } from "./Paper";

type Part = Schemas["ReportPart"];
type Choices = Schemas["ReportChoices"];
type Open = "hand" | "reopen" | "forget" | "care" | "files" | null;

/** Where something that is still to do is done. */
function where(car: string, t: Schemas["HandTodo"]): string {
  return t.panel_id ? `/panels/${encodeURIComponent(t.panel_id)}/${t.stage}` : `/cars/${encodeURIComponent(car)}/${t.stage}`;
}

/** The last stage: what is still to do, the two papers, and the car is closed. */
export default function HandOverPage() {
  const { carId = "" } = useParams();
  const go = useNavigate();
  const query = useHandover(carId);
  const hand = query.data;
  const car = useCar(carId).data;
  const touched = useTouched();
  const client = useQueryClient();
  useNews(car ? `/cars/${encodeURIComponent(carId)}/events` : null, (news) => {
    if (car && (news.house || news.version !== car.version)) void touched({ car: carId });
  });
  const [open, setOpen] = useState<Open>(null);
  const [large, setLarge] = useState<"report" | "record" | null>(null);
  // A tick shows at once; they are sent one after the other, and the last answer counts.
  const [mine, setMine] = useState<Choices | null>(null);
  const mutationKey = ["report", carId];
  const choose = useMutation({
    mutationKey,
    scope: { id: mutationKey.join() },
    mutationFn: (c: Choices) => api.setReport(carId, c),
    onSuccess: (h) => client.setQueryData(keys.handover(carId), h),
    onSettled: () => {
      if (client.isMutating({ mutationKey }) > 1) return undefined;
      setMine(null);
      return client.invalidateQueries({ queryKey: ["paper", carId] });
    },
  });
  const put = (c: Choices) => {
    setMine(c);
    choose.mutate(c);
  };
  const chosen = mine ?? hand?.choices;
  const closed = Boolean(hand?.handed_over_at);
  const to = `/api/cars/${encodeURIComponent(carId)}`;
  const print = () => window.open(`${to}/papers/report.pdf`, "_blank", "noopener");
  useKeys({
    Enter: () => setOpen(closed ? "reopen" : "hand"),
    p: print,
    f: () => setOpen("files"),
    z: () => setLarge("report"),
    u: () => !closed && setOpen("care"),
    Escape: () => void go(`/cars/${encodeURIComponent(carId)}`),
  }, Boolean(hand) && open === null && large === null);
  const turn = (part: Part, on: boolean) => {
    if (!hand || !chosen) return;
    put({ ...chosen, parts: hand.parts.map((p) => p.part).filter((p) => (p === part ? on : chosen.parts.includes(p))) });
  };
  return (
    <Page
      title={hand?.car.name ?? "Hand over"}
      sub={hand?.title ?? ""}
      home={`/cars/${encodeURIComponent(carId)}`}
      who={hand?.car.painter ?? ""}
      stage={{ current: 6, notes: car ? carNotes(car) : {} }}
      query={query}
      keys={[
        { keys: "Enter", does: closed ? "open the car again" : "hand the car over" },
        { keys: "P", does: "print the owner's report" },
        { keys: "F", does: "the papers and the whole car as files" },
        { keys: "Z", does: "the report at full size" },
        { keys: "U", does: "until when to be careful, what it was sealed with" },
        { keys: "Esc", does: "back to the car" },
      ]}
    >
      {hand && chosen ? (
        <HandFrame>
          <Paper car={carId} kind="report.svg" name="Owner's report" pages={hand.report_pages} large={large === "report"} setLarge={(v) => setLarge(v ? "report" : null)} />
          <Paper car={carId} kind="record.svg" name="Film record" pages={hand.record_pages} large={large === "record"} setLarge={(v) => setLarge(v ? "record" : null)} />
          <section className="side" aria-label="Hand over">
            {hand.seal_broken ? <Notice text={hand.seal_text ?? ""} /> : null}
            {closed ? (
              <div>
                <h2 className="t">Handed over</h2>
                <ul className="todo">
                  {hand.history.map((e) => (
                    <Box component="li" key={e.at} sx={{ py: 6 }}>
                      {e.text}
                    </Box>
                  ))}
                </ul>
                <p className="s">{hand.seal_text}</p>
              </div>
            ) : hand.todos.length > 0 ? (
              <div>
                <h2 className="t">Still to do</h2>
                <ul className="todo">
                  {hand.todos.map((t) => (
                    <li key={`${t.task}${t.panel_id ?? ""}`}>
                      <Link to={where(carId, t)}>
                        <span className="b">{t.panel_id ? t.name : "The owner"}</span>
                        <Box component="span" className="s" sx={{ display: "block" }}>
                          {t.text}
                        </Box>
                      </Link>
                    </li>
                  ))}
                </ul>
              </div>
            ) : null}
            {closed ? null : (
              <div>
                <h2 className="t">In the report</h2>
                <ul className="parts">
                  {hand.parts.map((p) => {
                    const on = chosen.parts.includes(p.part);
                    return (
                      <li key={p.part}>
                        <Tick checked={on} set={(v) => turn(p.part, v)} label={p.name} />
                        <Box component="label" className={on ? "" : "off"} onClick={() => turn(p.part, !on)}>
                          <span className={on ? "b" : ""}>{p.name}</span>
                          {p.text ? <span className="s">{p.text}</span> : null}
                        </Box>
                      </li>
                    );
                  })}
                </ul>
                <Box sx={{ display: "grid", gap: 10, mt: 10 }}>
                  {hand.pairs.length > 1 ? (
                    <Pick label="photos of" value={chosen.pair ?? ""} set={(pair) => put({ ...chosen, pair })}>
                      <option value="">the panel that was worked most</option>
                      {hand.pairs.map((p) => (
                        <option key={p.key} value={p.key}>
                          {p.name}
                        </option>
                      ))}
                    </Pick>
                  ) : null}
                  <Choice label="words" silent value={chosen.trade ? "trade" : "plain"} options={[["plain", "plain words"], ["trade", "the trade's"]]} set={(v) => put({ ...chosen, trade: v === "trade" })} />
                  <Button onClick={() => setOpen("care")}>
                    Careful until, sealed, sheet <span className="kc">U</span>
                  </Button>
                </Box>
                {choose.error ? <Notice text={choose.error.message} /> : null}
              </div>
            )}
            <div>
              <h2 className="t">In the film record</h2>
              <p className="s">Always whole: every panel, how it was read, what was taken. Goes with the car.</p>
            </div>
            <div className="keyfoot">
            <Button variant={closed ? "key" : "tape"} sx={{ width: "100%", minHeight: 60, fontSize: 19, justifyContent: "space-between" }} onClick={() => setOpen(closed ? "reopen" : "hand")}>
              {closed ? "Open it again" : hand.todos.length > 0 ? "Hand over as it is" : "Hand over"} <span className="kc">Enter</span>
            </Button>
            <div className="pairkeys">
              <Button onClick={print}>
                Print <span className="kc">P</span>
              </Button>
              <Button onClick={() => setOpen("files")}>
                As files <span className="kc">F</span>
              </Button>
            </div>
            </div>
            {closed && !hand.forgotten ? (
              <Button variant="hint" onClick={() => setOpen("forget")}>
                Delete what is known of the owner
              </Button>
            ) : null}
          </section>
          {open === "hand" ? <HandOverAsk hand={hand} close={() => setOpen(null)} /> : null}
          {open === "reopen" ? <ReopenAsk hand={hand} close={() => setOpen(null)} /> : null}
          {open === "forget" ? <ForgetAsk hand={hand} close={() => setOpen(null)} /> : null}
          {open === "care" ? <CareAsk hand={hand} close={() => setOpen(null)} save={put} /> : null}
          {open === "files" ? <FilesAsk hand={hand} close={() => setOpen(null)} /> : null}
        </HandFrame>
      ) : null}
    </Page>
  );
}
