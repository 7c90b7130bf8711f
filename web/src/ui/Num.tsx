import { Box, TableCell, TableHead, TableRow } from "@mui/material";
import type { Estimate } from "../api/client";
import { useUnits } from "../app/units";

/** A value, then its doubt in a lighter weight, then its unit. */
export function Num({ e, unit, size = 28 }: { e: Estimate; unit?: string; size?: number }) {
  const u = useUnits();
  return (
    <Box component="span" className="n nowrap" sx={{ fontSize: size, lineHeight: 1.05 }}>
      {u.um(e.mean)}
      <span className="pm"> ± {u.um(e.sd)}</span>
      <span className="u">{unit ?? u.name}</span>
    </Box>
  );
}

/** Film with its doubt in a table; nothing where it is not known. */
export function FilmCell({ e, none }: { e: Estimate | undefined; none?: string | undefined }) {
  const u = useUnits();
  return (
    <TableCell align="right" className="n">
      {e ? (
        <>
          {u.um(e.mean)}
          <span className="pm"> ± {u.um(e.sd)}</span>
        </>
      ) : (
        <span className="s">{none}</span>
      )}
    </TableCell>
  );
}

/** The heading of a table of film, headroom and state. */
export function FilmHead({ first }: { first: string }) {
  const u = useUnits();
  return (
    <TableHead>
      <TableRow>
        <TableCell>{first}</TableCell>
        <TableCell align="right">film, {u.name}</TableCell>
        <TableCell align="right">headroom</TableCell>
        <TableCell>may I sand?</TableCell>
      </TableRow>
    </TableHead>
  );
}
