import { Box, Button, Skeleton } from "@mui/material";
import { useIsFetching, useIsMutating } from "@tanstack/react-query";
import { useEffect, useState, type ReactNode } from "react";
import { Link, useNavigate } from "react-router";
import { useStanding } from "../outbox/useOutbox";
import { queue } from "../outbox/queue";
import { UnitKey, useUnits } from "./units";
import { useMode } from "./theme/mode";
import { KeyList, type KeyHelp } from "./KeyList";
import { Absent, Notice } from "../ui/Notice";
import { useKeys } from "./keys";
import { StageLine, type StageNote } from "./StageLine";
import { fading, wavePath } from "../drawing/wave";

/** The small glyph: a wave that lies down over a straight edge. */
export function Glyph({ width = 40 }: { width?: number }) {
  return (
    <svg width={width} height={width * 0.75} viewBox="-1 4 42 30" fill="none" stroke="var(--ink)" strokeLinejoin="round" strokeWidth="3" aria-hidden="true" style={{ flex: "none" }}>
      <path d={wavePath(0, 40, 0.5, 20, 11, fading(7.5, 30, 1.15))} />
      <path d="M0 30H40" />
    </svg>
  );
}

/** The name over the wave that lies down. */
function Wordmark() {
  return (
    <svg width="236" height="64" viewBox="-2 0 212 58" fill="none" aria-hidden="true">
      <text className="n" x="0" y="32" textLength="206" style={{ fontSize: 34, fontWeight: 640, fontStretch: "114%" }}>
        Wax Planus
      </text>
      <path d={wavePath(0, 206, 1, 46, 26, fading(5, 128, 1.1))} stroke="var(--ink)" strokeWidth="3.2" />
    </svg>
  );
}

function useClock(): string {
  const u = useUnits();
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), 10_000);
    return () => clearInterval(timer);
  }, []);
  return u.clock(now);
}

export interface PageProps {
  title: string;
  sub: string;
  home: string;
  stage?: { current: number | null; notes: Partial<Record<number, StageNote>> };
  middle?: ReactNode;
  who: string;
  /** The shop server did not take the last thing sent. */
  unsaved?: boolean;
  /** The shop server still works out some of what is shown. */
  working?: boolean;
  keys: KeyHelp[];
  /** What the screen shows; when it cannot be had the page says so. */
  query: { error: Error | null; isPending: boolean; refetch: () => unknown };
  children: ReactNode;
}

/** Head with the stage line, and what lies below it. */
export function Page({ title, sub, home, stage, middle, who, unsaved, working = false, keys, query, children }: PageProps) {
  const { mode, toggle } = useMode();
  const go = useNavigate();
  const time = useClock();
  const sending = useIsMutating() > 0;
  const asking = useIsFetching() > 0;
  const [listed, setListed] = useState(false);
  useKeys({ b: toggle, "?": () => setListed(true) });
  useEffect(() => {
    document.title = `${title} · Wax Planus`;
  }, [title]);
  const outbox = useStanding();
  const net = unsaved || outbox.text ? "not saved on the shop server" : sending || outbox.waiting > 0 ? "sending" : "saved on the shop server";
  return (
    <div className="page" data-busy={asking || working || sending || (outbox.waiting > 0 && !outbox.text)} data-waiting={outbox.waiting}>
      <a className="skip" href="#main">
        To the work
      </a>
      <header className="head">
        <Link className="name" to={home} aria-label={home === "/" ? `${title}, to Today` : `${title}, to the car`}>
          {stage || sub ? (
            <>
              <Glyph />
              <Box component="span" sx={{ minWidth: 0 }}>
                <h1 className="t">{title}</h1>
                <Box component="span" className="s" sx={{ display: "block" }}>
                  {sub}
                </Box>
              </Box>
            </>
          ) : (
            <>
              <Wordmark />
              <h1 className="hide">{title}</h1>
            </>
          )}
        </Link>
        {stage ? <StageLine current={stage.current} notes={stage.notes} /> : <div className="middle">{middle}</div>}
        <div className="who">
          <div className="n">{time}</div>
          <div className="s">
            {who ? `${who} · ` : ""}
              {net}
          </div>
          <Box className="keys" sx={{ justifyContent: "flex-end", gap: "0 12px" }}>
            <Button variant="hint" sx={{ fontSize: 12, lineHeight: "16px" }} onClick={toggle}>
              <span className="kc">B</span> {mode === "day" ? "booth" : "day"}
            </Button>
            <UnitKey />
            <Button variant="hint" sx={{ fontSize: 12, lineHeight: "16px" }} onClick={() => void go("/")}>
              Today
            </Button>
          </Box>
        </div>
      </header>
      {outbox.text ? (
        <Box sx={{ m: { xs: "8px 14px 0", md: "8px 24px 0" } }}>
          <Notice>
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: "6px 16px", alignItems: "center", justifyContent: "space-between" }}>
              {outbox.text}
              <Button variant="tape" onClick={() => void queue.flush()}>
                Send again
              </Button>
            </Box>
          </Notice>
        </Box>
      ) : null}
      <main className="body" id="main">
        {query.isPending ? (
          <Box className="waiting" role="status" aria-label="Looking on the shop server" sx={{ pt: 24, display: "grid", gap: 12 }}>
            <Skeleton variant="rectangular" height={32} width="40%" />
            <Skeleton variant="rectangular" height={320} />
          </Box>
        ) : null}
        {query.error ? <Absent text={query.error.message} again={() => void query.refetch()} /> : null}
        {children}
      </main>
      <KeyList open={listed} close={() => setListed(false)} keys={keys} />
    </div>
  );
}
