import { Box, Button, Dialog } from "@mui/material";
import { useId, type FormEvent, type ReactNode } from "react";

interface AskProps {
  title: string;
  /** Widest, in pixels. */
  wide?: number;
  close: () => void;
  /** Makes it a form: what Enter does. */
  submit?: () => void;
  /** A key to leave it stands beside the title. */
  leave?: boolean;
  children: ReactNode;
}

/** A question in front of the page; Esc leaves it. */
export function Ask({ title, wide = 560, close, submit, leave, children }: AskProps) {
  const id = useId();
  return (
    <Dialog open onClose={close} aria-labelledby={id} maxWidth={false} slotProps={{ paper: { sx: { m: { xs: "10px", md: "32px" }, width: wide, maxWidth: "calc(100% - 20px)" } } }}>
      <Box
        component={submit ? "form" : "div"}
        noValidate={submit ? true : undefined}
        onSubmit={(event: FormEvent) => {
          event.preventDefault();
          submit?.();
        }}
        sx={{ p: { xs: "18px 16px", md: "24px 28px" }, display: "grid", gap: 14, gridTemplateColumns: "minmax(0,1fr)" }}
      >
        <Box sx={{ display: "flex", justifyContent: "space-between", gap: 16, alignItems: "baseline" }}>
          <Box component="h2" id={id} className="t" sx={{ fontSize: 24, lineHeight: "30px" }}>
            {title}
          </Box>
          {leave ? (
            <Button variant="hint" sx={{ flexShrink: 0 }} onClick={close}>
              <span className="kc">Esc</span> leave
            </Button>
          ) : null}
        </Box>
        {children}
      </Box>
    </Dialog>
  );
}

/** The keys under a question. */
export function Foot({ children }: { children: ReactNode }) {
  return <Box sx={{ display: "flex", flexWrap: "wrap", gap: 10, justifyContent: "flex-end", alignItems: "center" }}>{children}</Box>;
}
