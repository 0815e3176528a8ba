import type { DayView } from "../service/client";

export function edited(day: DayView): { job: string; travel: string }[] {
  return day.plan.visits.map((v) => ({
    job: v.job,
    travel: v.travel_min == null ? "" : String(v.travel_min),
  }));
}

/** Visits in another order: a road that was typed holds only behind the same job as before. */
export function reordered(day: DayView, order: string[]) {
  const rows = edited(day);
  const before = (list: string[], job: string) => list[list.indexOf(job) - 1] ?? "";
  const was = rows.map((r) => r.job);
  return order.map((job) => {
    const row = rows.find((r) => r.job === job);
    const same = before(was, job) === before(order, job);
    return { job, travel: same ? (row?.travel ?? "") : "" };
  });
}

export function lasts(minutes: number): string {
  const whole = Math.round(minutes);
  const hours = Math.floor(whole / 60);
  return hours ? `${hours} h ${String(whole % 60).padStart(2, "0")}` : `${whole} min`;
}
