import { useEffect } from "react";
import { create } from "zustand";

type Network = {
  /** Whether the program left the last question without an answer. */
  down: boolean;
  /** When what is shown was read [ms], where it is what this browser stored; null where it is as it is now. */
  from: number | null;
  standsFrom: (at: number | null) => void;
};

export const network = create<Network>()((set) => ({
  down: false,
  from: null,
  standsFrom: (from) => set({ from }),
}));

export const answered = () => network.setState({ down: false });
export const silent = () => network.setState({ down: true });
if (typeof window !== "undefined") window.addEventListener("offline", silent);

const LOOK_MS = 5000;

/** While the program does not answer it is asked now and then, and as soon as a network comes back. */
export function useLookAgain(look: () => unknown) {
  const down = network((s) => s.down);
  useEffect(() => {
    if (!down) return;
    const now = () => void look();
    const timer = window.setInterval(now, LOOK_MS);
    window.addEventListener("online", now);
    return () => {
      window.clearInterval(timer);
      window.removeEventListener("online", now);
    };
  }, [down, look]);
}
