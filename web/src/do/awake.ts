import { useEffect } from "react";

/** Keeps the screen on while somebody works with both hands; silently without where it cannot. */
export function useAwake(on: boolean) {
  useEffect(() => {
    if (!on || !("wakeLock" in navigator)) return;
    let held: WakeLockSentinel | null = null;
    let left = false;
    const hold = () =>
      navigator.wakeLock
        .request("screen")
        .then((lock) => {
          if (left) lock.release();
          else held = lock;
        })
        .catch(() => {});
    // The lock ends whenever the page is hidden: take it again on the way back.
    const back = () => document.visibilityState === "visible" && hold();
    hold();
    document.addEventListener("visibilitychange", back);
    return () => {
      left = true;
      document.removeEventListener("visibilitychange", back);
      held?.release();
    };
  }, [on]);
}
