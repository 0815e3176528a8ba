import { useEffect } from "react";
import type { Change, Refusal } from "./client";
import { outbox, useOutbox } from "./outbox";
import { sendAgain } from "./refusals";

const AGAIN_MS = 4000;

/** Sends what waits of a job, one after another, as soon as the program answers. What it refuses waits until
 * something else of the job has changed; nothing is dropped. */
export function useSending(
  job: string,
  revision: number | undefined,
  send: (change: Change, key: string) => Promise<Refusal | null>,
) {
  const waiting = useOutbox(job);
  const next = waiting.find((r) => !r.refused);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another revision is another chance
  useEffect(() => outbox.anew(job), [job, revision]);
  const known = revision !== undefined;
  useEffect(() => {
    if (!next || !known) return;
    let left = false;
    let timer = 0;
    const go = async () => {
      window.clearTimeout(timer);
      const said = await send(next.change, next.key);
      if (left) return;
      if (!said) outbox.drop(next.key);
      else if (sendAgain(said)) timer = window.setTimeout(go, AGAIN_MS);
      else outbox.refuse(next.key, `${said.field}: ${said.detail}`);
    };
    const now = () => void go();
    now();
    window.addEventListener("online", now);
    return () => {
      left = true;
      window.clearTimeout(timer);
      window.removeEventListener("online", now);
    };
  }, [next, known, send]);
}
