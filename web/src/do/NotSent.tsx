import { client, type InspectionItem, type Step } from "../service/client";
import type { Waiting } from "../service/kept";
import { network } from "../service/network";
import { outbox, useOutbox } from "../service/outbox";
import type { RowOf } from "../service/rows";
import { useSite } from "../service/site";
import { Say } from "../units/showing";

export type TaskRecord = RowOf<"marks">;

/** The marks of a job with what waits here to be sent: it was done, whoever knows of it already. */
export function withWaiting(
  marks: readonly TaskRecord[],
  waiting: Waiting[],
): Map<string, TaskRecord> {
  const found = new Map(marks.map((m) => [m.step, m]));
  for (const { change: c, at } of waiting) {
    if (!c) continue;
    const old = found.get(c.step) ?? ({ id: "m0", step: c.step } as TaskRecord);
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
  marks: Map<string, TaskRecord>,
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

/** What was not taken is taken back here, and the others are told. */
async function takeBack(row: Waiting) {
  await outbox.drop([row]);
  await client
    .DELETE("/api/jobs/{job_id}/pending-writes/{key}", {
      params: { path: { job_id: row.job, key: row.key } },
    })
    .catch(() => {});
}

/** What other devices did and the job does not take yet. */
export function KeptElsewhere({ job, steps }: { job: string; steps: readonly Step[] }) {
  const { watch } = useSite(job);
  const mine = new Set(useOutbox(job).map((r) => r.key));
  const there = (watch?.held_back ?? []).filter((h) => !mine.has(h.key));
  if (!there.length) return null;
  return (
    <div
      role="status"
      aria-label="Kept elsewhere"
      className="border-2 border-marginal px-3 py-2 text-body"
    >
      <b>Waits on another device, {there.length}.</b>
      {there.map((h) => {
        const step = steps.find((s) => s.key === h.step);
        return (
          <p key={h.key} className="m-0 mt-1">
            {step ? <Say it={step.title} /> : h.step}
            {h.who ? `, by ${h.who}` : ""}: {WAITS[h.code] ?? "it is not taken yet"}.
          </p>
        );
      })}
    </div>
  );
}

const WAITS: Record<string, string> = {
  "gate-shut": "a gate before it is not confirmed",
  "danger-unread": "its own danger is not confirmed",
  stop: "a stop stands before it",
  "step-first": "a step before it is not done",
  "thing-open": "not everything is as it should be",
  "reading-out": "it reads out of its limits",
};

/** The things of a step as they were seen, with what waits here to be sent. */
export function thingsOf(step: Step, waiting: Waiting[]): InspectionItem[] {
  const said = Object.assign(
    {},
    ...waiting.filter((r) => r.change?.step === step.key).map((r) => r.change?.seen ?? {}),
  ) as Record<string, { state: InspectionItem["state"] }>;
  return (step.things ?? []).map((t) => ({ ...t, state: said[t.key]?.state ?? t.state }));
}

/** Whether there is a network, how much waits here, and why what was heard was not taken. */
export function NotSent({ job }: { job: string }) {
  const waiting = useOutbox(job);
  const down = network((s) => s.down);
  const refused = waiting.filter((r) => r.refused);
  if (!waiting.length && !down) return null;
  return (
    <div role="status" className="border-2 border-marginal px-3 py-2 text-body">
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
          <button type="button" className="plain-button min-h-11" onClick={() => void takeBack(r)}>
            Take it back
          </button>
        </p>
      ))}
    </div>
  );
}
