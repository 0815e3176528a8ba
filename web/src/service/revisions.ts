import { useEffect } from "react";
import type { Called, WatchView } from "../wire/types";
import type { OpenJob } from "./openJob";
import { tellSite } from "./site";

/** Hears of new revisions of a job that other devices make, and of its site, while this page is looked at. */
export function useRevisions(job: OpenJob, known: boolean) {
  useEffect(() => {
    if (!known) return;
    const { id } = job;
    let stream: EventSource | null = null;
    // A page that nobody looks at holds no line open: a browser has few of them for all its tabs.
    const look = () => {
      const open = document.visibilityState === "visible";
      if (open && !stream) {
        stream = new EventSource(`/api/jobs/${id}/events?seen=${job.view()?.revision ?? 0}`);
        stream.addEventListener("revision", (e) =>
          job.hear(JSON.parse((e as MessageEvent<string>).data).revision as number),
        );
        stream.addEventListener("watch", (e) =>
          tellSite(id, { watch: JSON.parse((e as MessageEvent<string>).data) as WatchView }),
        );
        stream.addEventListener("reading", (e) =>
          tellSite(id, { called: JSON.parse((e as MessageEvent<string>).data) as Called }),
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
  }, [job, known]);
}
