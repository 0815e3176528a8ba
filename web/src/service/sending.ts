import { useEffect } from "react";
import type { Refusal } from "./client";
import type { Waiting } from "./kept";
import { outbox, useOutbox } from "./outbox";
import { sendAgain } from "./refusals";

const AGAIN_MS = 500;
const MOST_AGAIN_MS = 8000;
const sending = new Set<string>();

/** Sends what waits of a job, one after another, as soon as the program answers. What it refuses waits until
 * something else of the job has changed; nothing is dropped. */
export function useSending(
  job: string,
  revision: number | undefined,
  send: (row: Waiting) => Promise<Refusal | null>,
) {
  const waiting = useOutbox(job);
  const next = waiting.find((r) => !r.refused);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another revision is another chance
  useEffect(() => void outbox.anew(job), [job, revision]);
  const known = revision !== undefined;
  const key = next?.key;
  // biome-ignore lint/correctness/useExhaustiveDependencies: a row is the same as long as its key is
  useEffect(() => {
    if (!next || !known) return;
    let left = false;
    let timer = 0;
    let pause = AGAIN_MS;
    const go = async () => {
      window.clearTimeout(timer);
      if (left || sending.has(job)) return;
      sending.add(job);
      const said = await send(next).finally(() => sending.delete(job));
      if (!said) await outbox.drop(next);
      else if (!sendAgain(said)) await outbox.refuse(next, `${said.field}: ${said.detail}`);
      else if (!left) {
        timer = window.setTimeout(go, pause);
        pause = Math.min(2 * pause, MOST_AGAIN_MS);
      }
    };
    const now = () => void go();
    now();
    window.addEventListener("online", now);
    return () => {
      left = true;
      window.clearTimeout(timer);
      window.removeEventListener("online", now);
    };
  }, [key, known, send]);
}
