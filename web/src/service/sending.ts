import type { Refusal } from "./client";
import type { Waiting } from "./kept";
import { outbox } from "./outbox";
import { sendAgain } from "./refusals";

/** Sends a row; `more` where others wait behind it, so that the page need not be drawn anew for each. */
type Send = (row: Waiting, more: boolean) => Promise<Refusal | null>;

const AGAIN_MS = 500;
const MOST_AGAIN_MS = 8000;

/** Sends the rows of one job, one after another, as soon as the program answers: one loop, whoever asks for it
 * and however often. What is refused waits until something else of the job has changed; nothing is dropped. */
export class Sender {
  private busy = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private pause = AGAIN_MS;
  /** Whether the last that was taken went out among many, so that the page shows what was before it. */
  private stale = false;

  constructor(
    private readonly job: string,
    private readonly send: Send,
    private readonly look: () => unknown,
  ) {}

  /** Begins, unless it is at it. */
  readonly go = async () => {
    clearTimeout(this.timer);
    if (this.busy) return;
    this.busy = true;
    const heard = await this.all().finally(() => {
      this.busy = false;
    });
    if (heard) return;
    this.timer = setTimeout(this.go, this.pause);
    this.pause = Math.min(2 * this.pause, MOST_AGAIN_MS);
  };

  stop() {
    clearTimeout(this.timer);
  }

  /** Until nothing waits, or nobody answers: then it says so. */
  private async all(): Promise<boolean> {
    for (let next = outbox.next(this.job); next; next = outbox.next(this.job)) {
      const more = outbox.many(this.job);
      const refusal = await this.send(next, more);
      if (!refusal) await outbox.drop(next);
      else if (sendAgain(refusal)) return false;
      else await outbox.refuse(next, `${refusal.field}: ${refusal.detail}`);
      if (!refusal) this.stale = more;
      this.pause = AGAIN_MS;
    }
    if (this.stale) this.look();
    this.stale = false;
    return true;
  }
}
