import { focusManager, QueryCache, QueryClient } from "@tanstack/react-query";
import type { Refusal } from "./client";
import { NO_ANSWER, sendAgain, unread } from "./refusals";

/** One cache for all pages. What fails through no fault of its question is told in one place. */
export const queries = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, query) => note(query.queryHash, error as unknown as Refusal),
    onSuccess: (_, query) => forget(query.queryHash),
  }),
  defaultOptions: {
    queries: {
      staleTime: Number.POSITIVE_INFINITY,
      refetchOnWindowFocus: false,
      // A refusal stays one when it is asked again at once.
      retry: (count, error) => count < 1 && sendAgain(error as unknown as Refusal),
    },
  },
});

// Writes that wait for one another go on while nobody looks at the page.
focusManager.setFocused(true);

function note(key: string, error: Refusal) {
  const refusal = typeof error.status === "number" ? error : NO_ANSWER;
  if (sendAgain(refusal)) unread.setState((s) => ({ rows: new Map(s.rows).set(key, refusal) }));
}

function forget(key: string) {
  if (!unread.getState().rows.has(key)) return;
  const rest = new Map(unread.getState().rows);
  rest.delete(key);
  unread.setState({ rows: rest });
}

/** Ask again for what failed, for whatever reason. */
export const readFailed = () =>
  queries.refetchQueries({ predicate: (q) => q.state.status === "error" });

/** Ask again for everything that could not be read. */
export function readAgain() {
  const keys = new Set(unread.getState().rows.keys());
  return queries.refetchQueries({ predicate: (q) => keys.has(q.queryHash) });
}
