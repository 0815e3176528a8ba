import type { Step } from "../service/client";
import type { Waiting } from "../service/kept";
import { useNetworkDown } from "../service/network";
import { outbox, useOutbox } from "../service/outbox";
import type { RowOf } from "../service/rows";

export type Mark = RowOf<"marks">;

/** The marks of a job with what waits here to be sent: it was done, whoever knows of it already. */
export function withWaiting(marks: readonly Mark[], waiting: Waiting[]): Map<string, Mark> {
  const found = new Map(marks.map((m) => [m.step, m]));
  for (const { change: c, at } of waiting) {
    if (!c) continue;
    const old = found.get(c.step) ?? ({ id: "m0", step: c.step } as Mark);
    const value = c.value == null ? old.value : Number(String(c.value).replace(",", "."));
    found.set(c.step, {
      ...old,
      at: c.done == null ? old.at : c.done ? when(at) : "",
      left_why: c.done == null ? old.left_why : (c.left ?? ""),
      danger_read: c.danger_read ?? old.danger_read,
      confirmed_by: c.by ?? old.confirmed_by,
      note: c.note ?? old.note,
      value: Number.isNaN(value) ? old.value : value,
    });
  }
  return found;
}

function when(ms: number): string {
  const at = new Date(ms);
  return new Date(ms - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
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

/** Whether there is a network, how much waits here, and why what was heard was not taken. */
export function NotSent({ job }: { job: string }) {
  const waiting = useOutbox(job);
  const down = useNetworkDown();
  const refused = waiting.filter((r) => r.refused);
  if (!waiting.length && !down) return null;
  return (
    <div role="status" className="border-2 border-ochre px-3 py-2 text-body">
      <b>
        {down ? "No network" : "Sending"}
        {waiting.length ? `, ${waiting.length} kept here` : ""}.
      </b>
      {down &&
        (window.isSecureContext
          ? " It is sent as soon as there is one."
          : " Sent when there is one. Do not reload: this address opens with a network only.")}
      {refused.map((r) => (
        <p key={r.key} className="m-0 mt-1 flex flex-wrap items-center gap-3">
          <span className="min-w-0 flex-1">Waits. {r.refused}</span>
          <button
            type="button"
            className="plain-button min-h-11"
            onClick={() => void outbox.drop(r)}
          >
            Take it back
          </button>
        </p>
      ))}
    </div>
  );
}
