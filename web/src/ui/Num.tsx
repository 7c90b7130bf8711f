import type { Estimate } from "../api/client";
import { um, unitName } from "../app/format";

/** A value, then its doubt in a lighter weight, then its unit. */
export function Num({ e, unit = unitName(), size = 28 }: { e: Estimate; unit?: string; size?: number }) {
  return (
    <span className="n nowrap" style={{ fontSize: size, lineHeight: 1.05 }}>
      {um(e.mean)}
      <span className="pm"> ± {um(e.sd)}</span>
      <span className="u">{unit}</span>
    </span>
  );
}

/** Film with its doubt in a table; nothing where it is not known. */
export function FilmCell({ e, none }: { e: Estimate | undefined; none?: string | undefined }) {
  return (
    <td className="n r">
      {e ? (
        <>
          {um(e.mean)}
          <span className="pm"> ± {um(e.sd)}</span>
        </>
      ) : (
        <span className="s">{none}</span>
      )}
    </td>
  );
}

/** The heading of a table of film, headroom and state. */
export function FilmHead({ first }: { first: string }) {
  return (
    <thead>
      <tr>
        <th>{first}</th>
        <th className="r">film, {unitName()}</th>
        <th className="r">headroom</th>
        <th>may I sand?</th>
      </tr>
    </thead>
  );
}
