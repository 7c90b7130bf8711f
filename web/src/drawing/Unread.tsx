import type { Panel } from "../api/client";

/** Film that nobody has read: dots of doubt on bare paper, no map. */
export function Unread({ panel, scale }: { panel: Panel; scale: number }) {
  const id = `unread${Math.round(scale * 100)}`;
  return (
    <>
      <pattern id={id} width={11 * scale} height={11 * scale} patternUnits="userSpaceOnUse">
        <circle cx={2.6 * scale} cy={2.6 * scale} r={1.15 * scale} fill="var(--line)" />
        <circle cx={8.1 * scale} cy={8.1 * scale} r={1.15 * scale} fill="var(--line)" />
      </pattern>
      <rect x="0" y="0" width={panel.width_mm} height={panel.height_mm} fill={`url(#${id})`} />
    </>
  );
}
