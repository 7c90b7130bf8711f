import { Alert, Box, Button } from "@mui/material";
import type { ReactNode } from "react";

/** What was not taken and what would be right; it stays until it is done. */
export function Notice({ text, action, children }: { text?: string; action?: ReactNode; children?: ReactNode }) {
  return (
    <Alert className="notice">
      {text}
      {children}
      {action ? <Box sx={{ mt: 6 }}>{action}</Box> : null}
    </Alert>
  );
}

/** The whole page is missing: say so, and how to go on. */
export function Absent({ text, again }: { text: string; again: () => void }) {
  return (
    <Box sx={{ py: 48, maxWidth: 520 }}>
      <Notice
        text={text}
        action={
          <Button variant="link" sx={{ minHeight: 32 }} onClick={again}>
            Try again
          </Button>
        }
      />
    </Box>
  );
}
