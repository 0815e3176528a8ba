import { useQuery, useQueryClient } from "@tanstack/react-query";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useMemo,
  useRef,
  useState,
} from "react";
import { client, type JobView, type Refusal } from "./client";

/** What a write got back from the service. */
export type Outcome = { data?: unknown; error?: unknown; response: Response };
export type At = { header: { "if-match": string }; path: { job_id: string } };
export type Write = (at: At) => Promise<Outcome>;

export type Desk = {
  view: JobView;
  /** Runs writes one after another, each with the newest revision. Resolves to a refusal or null. */
  edit: (write: Write) => Promise<Refusal | null>;
  busy: boolean;
  refusal: Refusal | null;
  dismiss: () => void;
  selected: string | null;
  select: (part: string | null) => void;
};

const Context = createContext<Desk | null>(null);

export function useJob(): Desk {
  const desk = useContext(Context);
  if (!desk) throw new Error("no job is open");
  return desk;
}

const NO_ANSWER: Refusal = {
  type: "about:blank",
  title: "No answer",
  status: 0,
  code: "no-answer",
  field: "",
  detail: "the program on this machine does not answer.",
  remedy: "Start it again; what is typed here stays.",
  choices: [],
};

export function JobProvider({ id, children }: { id: string; children: ReactNode }) {
  const cache = useQueryClient();
  const key = useMemo(() => ["job", id], [id]);
  const found = useQuery({
    queryKey: key,
    queryFn: async () => {
      const { data, error } = await client.GET("/api/jobs/{job_id}", {
        params: { path: { job_id: id } },
      });
      if (!data) throw error;
      return data as JobView;
    },
  });
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const [waiting, setWaiting] = useState(0);
  const [refusal, setRefusal] = useState<Refusal | null>(null);
  const [selected, select] = useState<string | null>(null);

  const edit = useCallback(
    (write: Write): Promise<Refusal | null> => {
      const run = async (): Promise<Refusal | null> => {
        const now = cache.getQueryData<JobView>(key);
        const at = { header: { "if-match": String(now?.revision ?? 0) }, path: { job_id: id } };
        try {
          const { data, error } = await write(at);
          if (data) {
            cache.setQueryData(key, data as JobView);
            setRefusal(null);
            return null;
          }
          const said = error as Refusal;
          if (said.current) cache.setQueryData(key, said.current);
          setRefusal(said);
          return said;
        } catch {
          setRefusal(NO_ANSWER);
          return NO_ANSWER;
        }
      };
      setWaiting((n) => n + 1);
      const result = line.current.then(run).finally(() => setWaiting((n) => n - 1));
      line.current = result;
      return result;
    },
    [cache, key, id],
  );
  const dismiss = useCallback(() => setRefusal(null), []);
  const view = found.data;
  const desk = useMemo(
    () => (view ? { view, edit, busy: waiting > 0, refusal, dismiss, selected, select } : null),
    [view, edit, waiting, refusal, dismiss, selected],
  );
  if (found.isError) return <p className="p-6">There is no such job. Choose one under Jobs.</p>;
  if (!desk) return null;
  return <Context.Provider value={desk}>{children}</Context.Provider>;
}
