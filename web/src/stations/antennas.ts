import type { Antenna, Job } from "../service/client";

/** Dishes and terrestrial antennas of a job, in the order in which they were added. */
export function antennasOf(job: Pick<Job, "dishes" | "arrays">): Antenna[] {
  const all: Antenna[] = [
    ...(job.dishes ?? []).map((d) => ({ kind: "dish" as const, ...d })),
    ...(job.arrays ?? []).map((a) => ({ kind: "array" as const, ...a })),
  ];
  return all.sort((a, b) => a.id.length - b.id.length || (a.id < b.id ? -1 : 1));
}
