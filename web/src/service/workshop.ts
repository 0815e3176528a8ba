import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type Catalogue, client, type Refusal, type SheetView } from "./client";
import { isRefusal, refusalOf, send, told } from "./refusals";

export type Shelf = "part" | "cable" | "array";

export function useCatalogue() {
  return useQuery({
    queryKey: ["catalogue"],
    queryFn: () => told(client.GET("/api/catalogue")) as Promise<Catalogue>,
  }).data;
}

/** What stands on the shelves beside the data: own or generic, and in how many jobs. */
export function useShelves() {
  return useQuery({
    queryKey: ["workshop"],
    queryFn: () => told(client.GET("/api/workshop")),
  }).data?.lines;
}

export function useSheet(shelf: Shelf, key: string) {
  return useQuery({
    queryKey: ["sheet", shelf, key],
    queryFn: () =>
      told(
        client.GET("/api/workshop/{shelf}/{key}", { params: { path: { shelf, key } } }),
      ) as Promise<SheetView>,
  }).data;
}

/** Everything that is written to the workshop; what was read of it before is read again. */
export function useWorkshop() {
  const queries = useQueryClient();
  const again = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: ["catalogue"] }),
      queries.invalidateQueries({ queryKey: ["workshop"] }),
      queries.invalidateQueries({ queryKey: ["sheet"] }),
    ]);
  const json = async (path: string, method: string, body?: object) => {
    const found = await send<SheetView>(`/api/workshop${path}`, {
      method,
      headers: { "content-type": "application/json" },
      body: body && JSON.stringify(body),
    });
    if (!isRefusal(found)) await again();
    return found;
  };
  const refused = (found: SheetView | Refusal) => (isRefusal(found) ? found : null);
  return {
    type: async (shelf: Shelf, key: string, field: string, text: string) =>
      refused(await json(`/${shelf}/${key}`, "PATCH", { field, text })),
    copy: (shelf: Shelf, key: string, name: string) => json(`/${shelf}/${key}`, "POST", { name }),
    drop: async (shelf: Shelf, key: string) => refused(await json(`/${shelf}/${key}`, "DELETE")),
    take: async (file: File) => {
      const found = await send<unknown>("/api/workshop", {
        method: "POST",
        headers: { "content-type": "text/csv" },
        body: file,
      });
      if (isRefusal(found)) return found;
      await again();
      return null;
    },
    /** Bring a job's own figures up to date with the sheet. */
    update: async (job: string, revision: number, change: unknown) => {
      const { error, response } = await client.POST("/api/jobs/{job_id}/changes", {
        params: { path: { job_id: job }, header: { "If-Match": String(revision) } as never },
        body: change as never,
      });
      await queries.invalidateQueries();
      return response.ok ? null : refusalOf(error, response);
    },
  };
}
