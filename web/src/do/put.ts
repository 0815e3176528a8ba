import type { Tick } from "../service/kept";

/** How things of a step were seen, by their keys. */
export type Seen = NonNullable<Tick["seen"]>;

/** What is kept of a step: that it is done or left and why, that its danger is confirmed and by whom, a
 * reading, a note, how its things were seen, how long it takes here. */
export type Put = {
  done?: boolean;
  left?: string;
  danger_read?: boolean;
  by?: string;
  value?: string;
  note?: string;
  seen?: Seen;
  minutes?: string;
};

const WHO = "evtro.who";

/** Who works with this device, as far as it was told. */
export function whoIsHere(): string {
  try {
    return localStorage.getItem(WHO) ?? "";
  } catch {
    return "";
  }
}

export function thisIs(who: string) {
  try {
    localStorage.setItem(WHO, who);
  } catch {
    // typed again next time then
  }
}
