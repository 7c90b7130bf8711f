import { newId } from "../api/client";

/** A name that stays in one place of the browser's; another each time where it keeps nothing. */
function named(place: string, store: () => Storage): string {
  try {
    const kept = store().getItem(place);
    if (kept) return kept;
    const made = newId();
    store().setItem(place, made);
    return made;
  } catch {
    return newId();
  }
}

/** This screen: one name for each tab. */
export const screenName = () => named("waxplanus.device", () => sessionStorage);

/** This tablet, whatever tab: its taps come one after the other. */
export const tabletName = () => named("waxplanus.tablet.name", () => localStorage);
