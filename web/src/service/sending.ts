import { useEffect } from "react";
import type { Refusal } from "./client";
import type { Waiting } from "./kept";
import { outbox, useOutbox } from "./outbox";
import { sendAgain } from "./refusals";

/** Sends a row; `more` where others wait behind it, so that the page need not be drawn anew for each. */
type Send = (row: Waiting, more: boolean) => Promise<Refusal | null>;
type Look = () => unknown;

const AGAIN_MS = 500;
const MOST_AGAIN_MS = 8000;

/** What sends the rows of one job: one loop, whoever asks for it and however often. */
class Sender {
  private busy = false;
  private timer = 0;
  private pause = AGAIN_MS;
  /** Whether the last that was taken went out among many, so that the page shows what was before it. */
  private stale = false;

  constructor(
    private readonly job: string,
    private readonly send: Send,
    private readonly look: Look,
  ) {}

  /** Begins, unless it is at it. */
  readonly go = async () => {
    window.clearTimeout(this.timer);
    if (this.busy) return;
    this.busy = true;
    const heard = await this.all().finally(() => {
      this.busy = false;
    });
    if (heard) return;
    this.timer = window.setTimeout(this.go, this.pause);
    this.pause = Math.min(2 * this.pause, MOST_AGAIN_MS);
  };

  stop() {
    window.clearTimeout(this.timer);
  }

  /** Until nothing waits, or nobody answers: then it says so. */
  private async all(): Promise<boolean> {
    for (let next = outbox.next(this.job); next; next = outbox.next(this.job)) {
      const more = outbox.many(this.job);
      const said = await this.send(next, more);
      if (!said) await outbox.drop(next);
      else if (sendAgain(said)) return false;
      else await outbox.refuse(next, `${said.field}: ${said.detail}`);
      if (!said) this.stale = more;
      this.pause = AGAIN_MS;
    }
    if (this.stale) this.look();
    this.stale = false;
    return true;
  }
}

/** Sends what waits of a job, one after another, as soon as the program answers. What it refuses waits until
 * something else of the job has changed; nothing is dropped. */
export function useSending(job: string, revision: number | undefined, send: Send, look: Look) {
  const waiting = useOutbox(job).filter((r) => !r.refused).length;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another revision is another chance
  useEffect(() => void outbox.anew(job), [job, revision]);
  const known = revision !== undefined;
  useEffect(() => {
    if (!waiting || !known) return;
    const sender = senderOf(job, send, look);
    const now = () => void sender.go();
    now();
    window.addEventListener("online", now);
    return () => {
      window.removeEventListener("online", now);
      sender.stop();
    };
  }, [job, waiting, known, send, look]);
}

const senders = new Map<string, { send: Send; sender: Sender }>();

function senderOf(job: string, send: Send, look: Look): Sender {
  const there = senders.get(job);
  if (there?.send === send) return there.sender;
  there?.sender.stop();
  const sender = new Sender(job, send, look);
  senders.set(job, { send, sender });
  return sender;
}
