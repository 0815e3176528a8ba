import { useEffect, useSyncExternalStore } from "react";

let down = false;
let from: number | null = null;
const hearers = new Set<() => void>();

function say(next: boolean) {
  if (next === down) return;
  down = next;
  for (const hear of hearers) hear();
}

/** Whether the program answered when it was asked last, and since when what is shown stands [ms]. */
export const network = {
  answers: () => say(false),
  silent: () => say(true),
  standsFrom: (at: number | null) => {
    if (at === from) return;
    from = at;
    for (const hear of hearers) hear();
  },
};

function subscribe(hear: () => void) {
  hearers.add(hear);
  window.addEventListener("offline", network.silent);
  return () => {
    hearers.delete(hear);
    window.removeEventListener("offline", network.silent);
  };
}

export function useNetworkDown(): boolean {
  return useSyncExternalStore(subscribe, () => down);
}

/** When what is shown was read, where it is what this browser kept; null where it is as it is now. */
export function useStandsFrom(): number | null {
  return useSyncExternalStore(subscribe, () => from);
}

const LOOK_MS = 5000;

/** While the program does not answer it is asked now and then, and as soon as a network comes back. */
export function useLookAgain(look: () => unknown) {
  const gone = useNetworkDown();
  useEffect(() => {
    if (!gone) return;
    const now = () => void look();
    const timer = window.setInterval(now, LOOK_MS);
    window.addEventListener("online", now);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener("online", now);
    };
  }, [gone, look]);
}
