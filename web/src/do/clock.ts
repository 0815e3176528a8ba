import { useEffect, useState } from "react";

/** The time [ms], looked at every so often. */
export function useClock(every_ms: number): number {
  const [now, set] = useState(Date.now);
  useEffect(() => {
    const timer = window.setInterval(() => set(Date.now()), every_ms);
    return () => window.clearInterval(timer);
  }, [every_ms]);
  return now;
}
