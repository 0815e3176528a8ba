import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import { client, type JobList, type JobSummary, type Refusal } from "../service/client";
import { told } from "../service/refusals";

export const PART = 60;
export type Asked = { find: string; state: string; since: string; until: string };

/** The parts of the list that hold the rows from `first` to `last`, and how many there are in all. */
export function useJobList(asked: Asked, first: number, last: number) {
  const parts: number[] = [];
  for (let n = Math.floor(first / PART); n <= Math.floor(Math.max(last, first) / PART); n++) {
    parts.push(n);
  }
  const found = useQueries({
    queries: parts.map((n) => ({
      queryKey: ["jobs", asked, n],
      staleTime: 0,
      queryFn: () =>
        told(
          client.GET("/api/jobs", {
            params: {
              query: { ...asked, first: n * PART, most: PART } as never,
            },
          }),
        ) as Promise<JobList>,
      // What is still worked out comes in by and by.
      refetchInterval: (query: { state: { data?: JobList } }) =>
        query.state.data?.waiting ? 1500 : (false as const),
    })),
  });
  const rows = new Map<number, JobSummary>();
  found.forEach((part, i) => {
    part.data?.jobs.forEach((job, k) => void rows.set(parts[i]! * PART + k, job));
  });
  const known = found.find((part) => part.data)?.data;
  // While another part or another question is read, the list keeps its length.
  const [before, setBefore] = useState<number | undefined>(undefined);
  const total = known?.total;
  if (total !== undefined && total !== before) setBefore(total);
  const failed = found.find((part) => part.error)?.error as unknown as Refusal | undefined;
  return { rows, total: total ?? before, waiting: known?.waiting ?? 0, failed };
}
