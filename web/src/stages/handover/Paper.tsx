import { Box, Button, Dialog, Skeleton } from "@mui/material";
import { useState } from "react";
import { usePaper } from "../../api/queries";
import { Notice } from "../../ui/Notice";

export type PaperKind = "report.svg" | "record.svg";

interface PaperProps {
  car: string;
  kind: PaperKind;
  name: string;
  pages: number;
  large: boolean;
  setLarge: (v: boolean) => void;
}

/** A paper as it prints, page by page; a tap shows the page at full size. */
export function Paper({ car, kind, name, pages, large, setLarge }: PaperProps) {
  const [turned, setPage] = useState(1);
  const page = Math.min(turned, Math.max(pages, 1));
  const query = usePaper(car, kind, page, pages > 0);
  // Our own server's drawing, whose texts are escaped where they are written.
  const drawn = query.data ? { __html: query.data } : undefined;
  return (
    <section className="paper" aria-label={name}>
      {query.error ? <Notice text={query.error.message} /> : null}
      {drawn ? <Box component="button" type="button" className="sheet" aria-label={`${name}, page ${page}, at full size`} onClick={() => setLarge(true)} dangerouslySetInnerHTML={drawn} /> : <Skeleton variant="rectangular" sx={{ width: "100%", height: "auto", aspectRatio: "210/297" }} />}
      <div className="turn">
        <Button variant="hint" onClick={() => setLarge(true)}>
          {kind === "report.svg" ? <span className="kc">Z</span> : null} {name} at full size
        </Button>
        {pages > 1 ? (
          <span>
            <Button variant="hint" disabled={page === 1} onClick={() => setPage(page - 1)} aria-label={`${name}, the page before`}>
              ‹
            </Button>
            page {page} of {pages}
            <Button variant="hint" disabled={page === pages} onClick={() => setPage(page + 1)} aria-label={`${name}, the next page`}>
              ›
            </Button>
          </span>
        ) : null}
      </div>
      {large && drawn ? (
        <Dialog open onClose={() => setLarge(false)} maxWidth={false} slotProps={{ paper: { "aria-label": `${name}, page ${page}`, sx: { width: 860, maxWidth: "calc(100% - 20px)", m: 10 } } }}>
          <Box sx={{ "& svg": { display: "block", width: "100%", height: "auto" } }} dangerouslySetInnerHTML={drawn} />
          <Box sx={{ position: "sticky", bottom: 0, background: "var(--paper)", p: "8px 14px", display: "flex", justifyContent: "flex-end" }}>
            <Button variant="key" onClick={() => setLarge(false)}>
              Back <span className="kc">Esc</span>
            </Button>
          </Box>
        </Dialog>
      ) : null}
    </section>
  );
}
