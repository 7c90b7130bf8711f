import { Box } from "@mui/material";
import { useEffect, useRef, useState } from "react";

/** A pass of longer ago than this is not timed any more, s. */
const timed = 15 * 60;

const words = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, "0")}`;

/** Time since the last pass was counted (ms of the page's own clock); starts by itself, tells when about a pass has gone by. */
export function PassTimer({ since, about, time }: { since: number; about: number; time: () => void }) {
  const [now, setNow] = useState(() => performance.now());
  const told = useRef(since);
  const tell = useRef(time);
  useEffect(() => {
    tell.current = time;
  });
  useEffect(() => {
    const timer = setInterval(() => setNow(performance.now()), 500);
    return () => clearInterval(timer);
  }, []);
  const gone = Math.max(0, (now - since) / 1000);
  const over = gone >= about;
  useEffect(() => {
    if (!over || told.current === since) return;
    told.current = since;
    tell.current();
  }, [over, since]);
  if (gone > timed) return null;
  return (
    <Box component="span" className="s" role="timer" aria-live="off" sx={{ fontSize: 16, color: over ? "var(--ink)" : "var(--ink2)" }}>
      {over ? `${words(gone)}, about a pass` : `${words(gone)} of about ${words(about)} a pass`}
    </Box>
  );
}
