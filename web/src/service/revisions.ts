import { useEffect, useRef } from "react";
import type { Called, WatchView } from "../wire/types";
import { site } from "./site";

/** Hears of new revisions of a job that other devices make, and of its site, while this page is looked at. */
export function useRevisions(
  id: string,
  revision: number | undefined,
  told: (revision: number) => void,
) {
  const seen = useRef(revision ?? 0);
  seen.current = revision ?? 0;
  const known = revision !== undefined;
  useEffect(() => {
    if (!known) return;
    let stream: EventSource | null = null;
    // A page that nobody looks at holds no line open: a browser has few of them for all its tabs.
    const look = () => {
      const open = document.visibilityState === "visible";
      if (open && !stream) {
        stream = new EventSource(`/api/jobs/${id}/events?seen=${seen.current}`);
        stream.addEventListener("revision", (e) =>
          told(JSON.parse((e as MessageEvent<string>).data).revision as number),
        );
        stream.addEventListener("watch", (e) =>
          site.tell(id, { watch: JSON.parse((e as MessageEvent<string>).data) as WatchView }),
        );
        stream.addEventListener("reading", (e) =>
          site.tell(id, { called: JSON.parse((e as MessageEvent<string>).data) as Called }),
        );
        stream.addEventListener("gone", () => stream?.close());
      } else if (!open) {
        stream?.close();
        stream = null;
      }
    };
    look();
    document.addEventListener("visibilitychange", look);
    return () => {
      document.removeEventListener("visibilitychange", look);
      stream?.close();
    };
  }, [id, known, told]);
}
