import { useEffect, useRef, useState } from "react";

/** The size of an element in px, followed as it changes. */
export function useSize<T extends Element>() {
  const ref = useRef<T>(null);
  const [size, setSize] = useState({ width: 480, height: 460 });
  useEffect(() => {
    const element = ref.current;
    if (!element) return undefined;
    const watch = new ResizeObserver(([entry]) => {
      if (entry && entry.contentRect.width > 0) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return { ref, ...size };
}
