import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef } from "react";
import { client, type DayAnswer, type DayEdit, type Refusal } from "../service/client";
import { isRefusal, NO_ANSWER, refusalOf, send, told } from "../service/refusals";

/** A day and the ways to change it; writes go one after another, each with the newest revision. */
export function useDay(date: string) {
  const cache = useQueryClient();
  const key = ["day", date];
  const found = useQuery<DayAnswer, Refusal>({
    queryKey: key,
    staleTime: 0,
    queryFn: () =>
      told(client.GET("/api/days/{date}", { params: { path: { date } } })) as Promise<DayAnswer>,
  });
  const line = useRef<Promise<unknown>>(Promise.resolve());
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key is the date
  const write = useCallback(
    (call: (revision: string) => Promise<DayAnswer | Refusal>): Promise<Refusal | null> => {
      const run = async () => {
        const seen = cache.getQueryData<DayAnswer>(key)?.revision ?? 0;
        const got = await call(String(seen));
        if (isRefusal(got)) {
          if (got.status === 409) await cache.refetchQueries({ queryKey: key });
          return got;
        }
        cache.setQueryData(key, got);
        void cache.invalidateQueries({ queryKey: ["days"] });
        return null;
      };
      const result = line.current.then(run);
      line.current = result;
      return result;
    },
    [cache, date],
  );
  const change = (edit: Partial<DayEdit>) =>
    write(async (revision) => {
      try {
        const { data, error, response } = await client.PUT("/api/days/{date}", {
          params: { path: { date }, header: { "if-match": revision } },
          body: { no_forecast: false, ...edit } as DayEdit,
        });
        return (data as DayAnswer | undefined) ?? refusalOf(error, response);
      } catch {
        return NO_ANSWER;
      }
    });
  const forecast = (file: File | null) =>
    write(async (revision) =>
      send<DayAnswer>(
        file
          ? `/api/days/${date}/forecast?${new URLSearchParams({ name: file.name.slice(0, 40) })}`
          : `/api/days/${date}/simulated`,
        {
          method: "POST",
          headers: { "content-type": file ? "text/csv" : "application/json", "if-match": revision },
          body: file ? await file.slice(0, 2_000_000).arrayBuffer() : "{}",
        },
      ),
    );
  return { found, change, forecast };
}
