/** The fills that carry a meaning besides their colour. */
export function Patterns() {
  return (
    <svg width="0" height="0" style={{ position: "absolute" }} aria-hidden="true">
      <defs>
        <pattern id="pOpen" width="7" height="7" patternUnits="userSpaceOnUse">
          <rect width="7" height="7" fill="var(--open)" />
        </pattern>
        <pattern id="pTight" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" fill="var(--tight)" />
          <rect width="2" height="7" fill="var(--onTight)" />
        </pattern>
        <pattern id="pShut" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="7" height="7" fill="var(--shut)" />
          <rect width="1.8" height="7" fill="#fff" />
          <rect width="7" height="1.8" fill="#fff" />
        </pattern>
        <pattern id="pSpend" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
          <rect width="5" height="5" fill="var(--sheet)" />
          <rect width="1.4" height="5" fill="var(--ink)" />
        </pattern>
        <pattern id="pDoubt" width="9" height="9" patternUnits="userSpaceOnUse">
          <circle cx="2.2" cy="2.2" r="1.25" fill="var(--paper)" />
          <circle cx="6.7" cy="6.7" r="1.25" fill="var(--paper)" />
        </pattern>
        <pattern id="pSub" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="6" height="6" fill="var(--ink3)" />
          <rect width="3" height="6" fill="var(--ink2)" />
        </pattern>
      </defs>
    </svg>
  );
}

export const patternOf = { open: "url(#pOpen)", tight: "url(#pTight)", shut: "url(#pShut)" } as const;
