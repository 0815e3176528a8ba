import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type Change, client, type JobView, type Refusal } from "./client";
import { type At, useJobId, useView } from "./job";
import { send, told } from "./refusals";

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** What a page asks for on its own: computed anew whenever the job has changed. */
function usePage<T>(
  key: (string | null)[],
  ask: (job_id: string) => Promise<Answer<unknown>>,
  on = true,
  again?: (data: T | undefined) => number | false,
) {
  const id = useJobId();
  const revision = useView((view) => view.revision);
  return useQuery<T, Refusal>({
    queryKey: ["page", id, revision, ...key],
    queryFn: () => told(ask(id)) as Promise<T>,
    enabled: on,
    placeholderData: keepPreviousData,
    refetchInterval: again ? (query) => again(query.state.data) : false,
  });
}

export function useSun(day: string) {
  return usePage<import("./client").SunView>(["sun", day], (job_id) =>
    client.GET("/api/jobs/{job_id}/sun", { params: { path: { job_id }, query: { day } } }),
  );
}

export function usePreview(change: Change | null) {
  return usePage<import("./client").Preview>(
    ["preview", JSON.stringify(change)],
    (job_id) =>
      client.POST("/api/jobs/{job_id}/preview", {
        params: { path: { job_id } },
        body: change as never,
      }),
    change !== null,
  );
}

export function useAim(row_id: string | null, feed = "") {
  return usePage<import("./client").AimDetail>(
    ["aim", row_id, feed],
    (job_id) =>
      client.GET("/api/jobs/{job_id}/antennas/{row_id}/aim", {
        params: { path: { job_id, row_id: row_id ?? "" }, query: { feed } },
      }),
    row_id !== null,
  );
}

export function useFixes(code: string, ref: string) {
  return usePage<import("./client").Fixes>(["fixes", code, ref], (job_id) =>
    client.GET("/api/jobs/{job_id}/fixes", { params: { path: { job_id }, query: { code, ref } } }),
  );
}

export function useKit() {
  return usePage<import("./client").KitView>(["kit"], (job_id) =>
    client.GET("/api/jobs/{job_id}/kit", { params: { path: { job_id } } }),
  );
}

export function useLimits() {
  return usePage<import("./client").LimitLine[]>(["limits"], (job_id) =>
    client.GET("/api/jobs/{job_id}/limits", { params: { path: { job_id } } }),
  );
}

export function usePowering() {
  return usePage<import("./client").PowerView>(["powering"], (job_id) =>
    client.GET("/api/jobs/{job_id}/powering", { params: { path: { job_id } } }),
  );
}

export function useLink(row_id: string | null) {
  return usePage<import("./client").LinkAnswer>(
    ["link", row_id],
    (job_id) =>
      client.GET("/api/jobs/{job_id}/antennas/{row_id}/link", {
        params: { path: { job_id, row_id: row_id ?? "" } },
      }),
    row_id !== null,
    (found) => (found?.rain.state === "working" ? 700 : false),
  );
}

export function useFrequencies(row_id: string | null, lo: string) {
  return usePage<import("./client").Frequencies>(
    ["frequencies", row_id, lo],
    (job_id) =>
      client.GET("/api/jobs/{job_id}/antennas/{row_id}/frequencies", {
        params: { path: { job_id, row_id: row_id ?? "" }, query: { lo } },
      }),
    row_id !== null,
  );
}

export function usePaths() {
  return usePage<import("./client").Paths>(["paths"], (job_id) =>
    client.GET("/api/jobs/{job_id}/paths", { params: { path: { job_id } } }),
  );
}

export type Behind = "run" | "preamplifier";

export function useArray(row_id: string | null, behind: Behind) {
  return usePage<import("./client").ArrayDetail>(
    ["array", row_id, behind],
    (job_id) =>
      client.GET("/api/jobs/{job_id}/antennas/{row_id}/array", {
        params: { path: { job_id, row_id: row_id ?? "" }, query: { behind } },
      }),
    row_id !== null,
  );
}

export function useExpected() {
  return usePage<import("./client").ExpectedOutlet[]>(["expected"], (job_id) =>
    client.GET("/api/jobs/{job_id}/expected", { params: { path: { job_id } } }),
  );
}

export function useNear() {
  return usePage<import("./client").NearLine[]>(["near"], (job_id) =>
    client.GET("/api/jobs/{job_id}/near", { params: { path: { job_id } } }),
  );
}

export function useCoverings() {
  return usePage<import("./client").Covering[]>(["coverings"], (job_id) =>
    client.GET("/api/jobs/{job_id}/coverings", { params: { path: { job_id } } }),
  );
}

/** A file's bytes to an address of the job, as an edit. */
export function fileTo(path: string, media: string, file: File) {
  return async (at: At) => {
    const data = await send<JobView>(`/api/jobs/${at.path.job_id}${path}`, {
      method: "POST",
      headers: { "content-type": media, ...at.header },
      body: await file.slice(0, 21_000_000).arrayBuffer(),
    });
    return { data, response: Response.error() };
  };
}
