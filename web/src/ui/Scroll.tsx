import { Box, type SxProps, type Theme } from "@mui/material";
import { useEffect, useRef, useState, type ReactNode } from "react";

const below = "linear-gradient(to bottom, #000 calc(100% - 36px), transparent)";
const beside = "linear-gradient(to right, #000 calc(100% - 36px), transparent)";

/** A part of the page that scrolls by itself; the edge fades where there is more. */
export function Scroll({ label, className, sx, children }: { label: string; className?: string; sx?: SxProps<Theme>; children: ReactNode }) {
  const ref = useRef<HTMLDivElement>(null);
  const [more, setMore] = useState(false);
  const [wide, setWide] = useState(false);
  useEffect(() => {
    const box = ref.current;
    if (!box) return undefined;
    const look = () => {
      setMore(box.scrollHeight - box.clientHeight - box.scrollTop > 2);
      setWide(box.scrollWidth - box.clientWidth - box.scrollLeft > 2);
    };
    look();
    const sizes = new ResizeObserver(look);
    sizes.observe(box);
    for (const child of box.children) sizes.observe(child);
    const content = new MutationObserver(look);
    content.observe(box, { childList: true, subtree: true });
    box.addEventListener("scroll", look, { passive: true });
    return () => {
      sizes.disconnect();
      content.disconnect();
      box.removeEventListener("scroll", look);
    };
  }, []);
  return (
    <Box ref={ref} className={className} data-more={more} data-wide={wide} tabIndex={0} role="region" aria-label={label} sx={[{ overflow: "auto", minHeight: 0, ...(more || wide ? { maskImage: [more ? below : "", wide ? beside : ""].filter(Boolean).join(","), maskComposite: "intersect" } : {}) }, ...(Array.isArray(sx) ? sx : [sx ?? {}])]}>
      {children}
    </Box>
  );
}
