import { useEffect, useState } from "react";

/** Over HTTPS the program opens without a network, too; a newer one is taken when somebody says so. */
export function Newer() {
  const [take, setTake] = useState<(() => Promise<void>) | null>(null);
  useEffect(() => {
    if (window.location.protocol !== "https:") return;
    void import("virtual:pwa-register").then(({ registerSW }) => {
      const update = registerSW({
        immediate: true,
        onNeedRefresh: () => setTake(() => () => update(true)),
      });
    });
  }, []);
  if (!take) return null;
  return (
    <div
      role="status"
      className="flex flex-wrap items-center gap-x-4 border-marginal border-b-2 bg-paper px-6 py-2"
    >
      <span>A newer Evtro is here. What waits to be sent stays.</span>
      <button type="button" className="plain-button ml-auto" onClick={() => void take()}>
        Take it
      </button>
    </div>
  );
}
