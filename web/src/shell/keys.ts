import { useEffect, useRef } from "react";

export type Keys = Record<string, () => void>;

function typing(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.dataset["keys"] === "through") return false;
  return target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName);
}

/**
 * One key for each frequent action. Letters work only when no text field has
 * focus and no dialog is open; a control's own Enter and Space stay its own.
 */
export function useKeys(keys: Keys, on = true): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    if (!on) return undefined;
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.altKey || event.metaKey || typing(event.target)) return;
      if (document.querySelector('[role="dialog"]')) return;
      const target = event.target;
      const own = target instanceof HTMLElement && target.closest("button,a,[role=button]");
      if (own && !(target instanceof HTMLElement && target.dataset["pass"]) && (event.key === "Enter" || event.key === " ")) return;
      const name = event.key.length === 1 ? event.key.toLowerCase() : event.key;
      const act = latest.current[name];
      if (!act || (event.repeat && !name.startsWith("Arrow"))) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [on]);
}
