import type { Refusal } from "./client";
import type { Waiting } from "./kept";
import { outbox } from "./outbox";
import { sendAgain } from "./refusals";

/** Sends rows, and says of each, in their order, why it was refused, or null. Where one is not answered those
 * behind it are not either. */
type Send = (rows: readonly Waiting[]) => Promise<readonly (Refusal | null)[]>;

const AGAIN_MS = 500;
const MOST_AGAIN_MS = 8000;

/** Sends the rows of one job, in their order, as soon as the program answers: in one loop, however often it is
 * asked to. What is refused waits until something else of the job has changed; nothing is dropped. */
export class Sender {
  private busy = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private pause = AGAIN_MS;

  constructor(
    private readonly job: string,
    private readonly send: Send,
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
    for (let next = outbox.next(this.job); next.length; next = outbox.next(this.job)) {
      const answers = await this.send(next);
      const answered = next.flatMap((row, i) => {
        const refusal = answers[i];
        return refusal === undefined || (refusal && sendAgain(refusal)) ? [] : [{ row, refusal }];
      });
      await outbox.drop(answered.flatMap((a) => (a.refusal ? [] : [a.row])));
      for (const { row, refusal } of answered)
        if (refusal) await outbox.refuse(row, `${refusal.field}: ${refusal.detail}`);
      if (!answered.length) return false;
      this.pause = AGAIN_MS;
    }
    return true;
  }
}
