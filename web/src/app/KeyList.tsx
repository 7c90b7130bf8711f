import { Dialog } from "@mui/material";

export interface KeyHelp {
  keys: string;
  does: string;
}

const everywhere: KeyHelp[] = [
  { keys: "B", does: "day or booth" },
  { keys: "?", does: "this list" },
];

/** All keys of a screen. */
export function KeyList({ open, close, keys }: { open: boolean; close: () => void; keys: KeyHelp[] }) {
  return (
    <Dialog open={open} onClose={close} aria-labelledby="keylist">
      <div style={{ padding: "24px 28px", minWidth: 340 }}>
        <h2 id="keylist" className="t" style={{ fontSize: 22, lineHeight: "26px", marginBottom: 12 }}>
          Keys on this screen
        </h2>
        <table className="tb">
          <tbody>
            {[...keys, ...everywhere].map((k) => (
              <tr key={k.keys}>
                <td style={{ paddingRight: 24 }}>
                  <span className="kc">{k.keys}</span>
                </td>
                <td>{k.does}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <button type="button" className="key" style={{ marginTop: 16 }} onClick={close}>
          Close <span className="kc">Esc</span>
        </button>
      </div>
    </Dialog>
  );
}
