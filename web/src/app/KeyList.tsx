import { Button, Table, TableBody, TableCell, TableRow } from "@mui/material";
import { Ask, Foot } from "../ui/Ask";

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
  if (!open) return null;
  return (
    <Ask title="Keys on this screen" wide={520} close={close}>
        <Table>
          <TableBody>
            {[...keys, ...everywhere].map((k) => (
              <TableRow key={k.keys}>
                <TableCell sx={{ paddingRight: 24 }}>
                  <span className="kc">{k.keys}</span>
                </TableCell>
                <TableCell sx={{ whiteSpace: "normal" }}>{k.does}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      <Foot>
        <Button onClick={close}>
          Close <span className="kc">Esc</span>
        </Button>
      </Foot>
    </Ask>
  );
}
