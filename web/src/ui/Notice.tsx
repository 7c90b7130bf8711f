import type { ReactNode } from "react";

/** What was not taken and what would be right; it stays until it is done. */
export function Notice({ text, action }: { text: string; action?: ReactNode }) {
  return (
    <div className="notice" role="alert">
      {text}
      {action ? <div style={{ marginTop: 6 }}>{action}</div> : null}
    </div>
  );
}

/** The whole page is missing: say so, and how to go on. */
export function Absent({ text, again }: { text: string; again: () => void }) {
  return (
    <div style={{ padding: "48px 0", maxWidth: 520 }}>
      <Notice
        text={text}
        action={
          <button type="button" className="linkish" onClick={again}>
            Try again
          </button>
        }
      />
    </div>
  );
}
