import { Button } from "@mui/material";
import { useState } from "react";
import { Ask, Foot } from "./Ask";
import { Field } from "./Field";
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
    <Ask title={`Strike out ${what}`} wide={440} close={close} submit={() => void send()}>
        <p className="s">It stays on record, crossed out, with the reason.</p>
        <Field label="Reason" value={reason} onChange={(e) => setReason(e.target.value)} autoFocus placeholder="the probe sat on tape" />
        {fault ? <Notice text={fault} /> : null}
        <Foot>
          <Button variant="quiet" onClick={close}>
            Not now
          </Button>
          <Button type="submit" variant="tape">
            Strike out <span className="kc">Enter</span>
          </Button>
        </Foot>
    </Ask>
  );
}
