import type { Step } from "../service/client";
import { outbox, useOutbox, type Waiting } from "../service/outbox";
import type { RowOf } from "../service/rows";

export type Mark = RowOf<"marks">;

/** The marks of a job with what waits here to be sent: it was done, whoever knows of it already. */
export function withWaiting(marks: readonly Mark[], waiting: Waiting[]): Map<string, Mark> {
  const found = new Map(marks.map((m) => [m.step, m]));
  for (const { change: c, at } of waiting) {
    const old = found.get(c.step) ?? ({ id: "m0", step: c.step } as Mark);
    const value = c.value == null ? old.value : Number(String(c.value).replace(",", "."));
    found.set(c.step, {
      ...old,
      at: c.done == null ? old.at : c.done ? at : "",
      danger_read: c.danger_read ?? old.danger_read,
      confirmed_by: c.by ?? old.confirmed_by,
      note: c.note ?? old.note,
      value: Number.isNaN(value) ? old.value : value,
    });
  }
  return found;
}

/** The gate that holds a step, as far as this device knows: what waits here to be sent counts. The program
 * has the last word when it hears of it. */
export function heldBy(
  steps: readonly Step[],
  step: Step,
  marks: Map<string, Mark>,
  waiting: Waiting[],
): string | null {
  if (!waiting.length) return step.held_by ?? null;
  const before = steps.slice(
    0,
    steps.findIndex((s) => s.key === step.key),
  );
  const shut = before.find((s) => s.stop?.length || (s.danger && !marks.get(s.key)?.danger_read));
  return shut?.key ?? null;
}

/** How much waits here, and why what was heard was not taken. */
export function NotSent({ job }: { job: string }) {
  const waiting = useOutbox(job);
  if (!waiting.length) return null;
  const refused = waiting.filter((r) => r.refused);
  return (
    <div role="status" className="border-2 border-ochre p-3 text-body">
      <b>{waiting.length} kept here, not sent yet.</b>
      {refused.length === 0 && " Sent as soon as there is a network; do not empty this browser."}
      {refused.map((r) => (
        <p key={r.key} className="m-0 mt-1 flex flex-wrap items-center gap-3">
          <span className="min-w-0 flex-1">Waits. {r.refused}</span>
          <button
            type="button"
            className="plain-button min-h-11"
            onClick={() => outbox.drop(r.key)}
          >
            Take it back
          </button>
        </p>
      ))}
    </div>
  );
}
