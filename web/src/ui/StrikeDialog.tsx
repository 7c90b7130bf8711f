import { Dialog, TextField } from "@mui/material";
import { useState } from "react";
import { Notice } from "./Notice";

/** Asks why something is struck out; what was typed stays when it fails. */
export function StrikeDialog({ what, close, strike }: { what: string; close: () => void; strike: (reason: string) => Promise<unknown> }) {
  const [reason, setReason] = useState("");
  const [fault, setFault] = useState("");
  const send = async () => {
    try {
      await strike(reason);
      close();
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <Dialog open onClose={close} aria-labelledby="strike">
      <form
        style={{ padding: "24px 28px", width: 440, maxWidth: "100%", display: "grid", gap: 14 }}
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <h2 id="strike" className="t" style={{ fontSize: 22, lineHeight: "26px" }}>
          Strike out {what}
        </h2>
        <p className="s">It stays on record, crossed out, with the reason.</p>
        <TextField label="Reason" value={reason} onChange={(e) => setReason(e.target.value)} autoFocus fullWidth placeholder="the probe sat on tape" />
        {fault ? <Notice text={fault} /> : null}
        <div style={{ display: "flex", gap: 10, justifyContent: "flex-end" }}>
          <button type="button" className="key q" onClick={close}>
            Not now
          </button>
          <button type="submit" className="key tape">
            Strike out <span className="kc">Enter</span>
          </button>
        </div>
      </form>
    </Dialog>
  );
}
