import { useEffect, useLayoutEffect, useRef } from "react";

export type Keys = Record<string, () => void>;

const digits = /^[0-9.,-]$/;

/** Whether a key belongs to a text field; a field of numbers lets letters through. */
function typing(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.dataset["keys"] === "numbers") return digits.test(key);
  return target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName);
}

/** How a key is called: letters small, arrows with Shift by their own name. */
export function keyName(event: { key: string; shiftKey: boolean }): string {
  if (event.key.length === 1) return event.key.toLowerCase();
  return event.shiftKey && event.key.startsWith("Arrow") ? `Shift${event.key}` : event.key;
}

// A control that a finger or the mouse pressed keeps the focus, and is not what the next key is for.
let byPointer = false;
let pressed: EventTarget | null = null;
window.addEventListener("pointerdown", (event) => {
  byPointer = true;
  if (event.target instanceof Node && document.activeElement?.contains(event.target)) pressed = document.activeElement;
}, true);
window.addEventListener("keydown", (event) => {
  if (event.key === "Tab" || event.key.startsWith("Arrow")) byPointer = false;
}, true);
window.addEventListener("focusin", (event) => {
  pressed = byPointer ? event.target : null;
}, true);

/**
 * One key for each frequent action. Letters work only when no text field has
 * focus and, on a page, no dialog is open; Enter and Space of a control that was come to
 * by keys stay its own. In a dialog Space is the dialog's.
 */
export function useKeys(keys: Keys, on = true, where: "page" | "dialog" = "page"): void {
  const latest = useRef(keys);
  // With the drawing, not after it: a key on what is seen must not meet what was there.
  useLayoutEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    if (!on) return undefined;
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.altKey || event.metaKey || event.defaultPrevented || typing(event.target, event.key)) return;
      if (where === "page" && document.querySelector('[role="dialog"]')) return;
      const target = event.target;
      const own = target instanceof Element && target.closest("button,a,[role=button]");
      if (own && own !== pressed && !own.hasAttribute("data-pass") && (event.key === "Enter" || (event.key === " " && where === "page"))) return;
      const name = keyName(event);
      const act = latest.current[name];
      if (!act || (event.repeat && !name.includes("Arrow"))) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [on, where]);
}
