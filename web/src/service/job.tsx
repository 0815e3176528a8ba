import { useQuery, useQueryClient } from "@tanstack/react-query";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { type AnswerKey, type Change, client, type JobView, lookAt, type Refusal } from "./client";
import { keepJob, keptJob, type Taken, type Tick, type Waiting } from "./kept";
import { network, useLookAgain, useNetworkDown } from "./network";
import { outbox, useOutbox } from "./outbox";
import { isRefusal, NO_ANSWER, refusalOf, sendAgain, told } from "./refusals";
import { useRevisions } from "./revisions";
import { useSending } from "./sending";

/** What a write got back from the service. */
export type Outcome = { data?: unknown; error?: unknown; response: Response };
export type At = { header: { "if-match": string }; path: { job_id: string } };
export type Write = (at: At) => Promise<Outcome>;

export type Desk = {
  view: JobView;
  /** Whether the answers that the page needs are there. */
  ready: boolean;
  /** Asks for more answers than the page needs by itself. */
  alsoShow: (keys: readonly AnswerKey[]) => void;
  /** Runs writes one after another, each with the newest revision. Resolves to a refusal or null. */
  edit: (write: Write) => Promise<Refusal | null>;
  /** Carries out a change. Sent again after a lost answer it is still carried out once. */
  change: (change: Change) => Promise<Refusal | null>;
  /** Ticks a step. Without an answer it waits here, in its turn, and is sent when there is one. */
  tick: (change: Tick) => Promise<Refusal | null>;
  /** Keeps a photograph of a step, in its turn with the ticks. */
  photo: (taken: Taken) => Promise<Refusal | null>;
  /** Somebody begins to type: what is written next saw the job as it is now. */
  begins: () => void;
  busy: boolean;
  refusal: Refusal | null;
  dismiss: () => void;
  /** Sends again what was not kept through no fault of its own. */
  again: (() => Promise<unknown>) | null;
  /** How often something was kept by sending it again from here. */
  kept: number;
  selected: string | null;
  select: (part: string | null) => void;
};

const Context = createContext<Desk | null>(null);

export function useJob(): Desk {
  const desk = useContext(Context);
  if (!desk) throw new Error("no job is open");
  return desk;
}

/** A job with some answers: those of the open page unless others are named. */
function opened(id: string, show?: readonly AnswerKey[]): Promise<JobView> {
  return told(
    client.GET("/api/jobs/{job_id}", {
      params: { path: { job_id: id } },
      headers: show ? { "Evtro-Show": show.join(",") } : {},
    }),
  ) as Promise<JobView>;
}

// A job is put away when nobody is changing it, and on site with all its answers a little later.
const KEEP_MS = 1500;
const KEEP_WHOLE_MS = 4000;
const WHOLE = [
  "site",
  "sky",
  "aim",
  "mast",
  "earth",
  "coax",
  "readings",
  "handover",
  "steps",
] as const;

/** Keeps an open job on this device, for when there is no network. */
function useKeeping(view: JobView | undefined, down: boolean, whole: boolean) {
  useEffect(() => {
    if (!view || down) return;
    const keep = () => keepJob(view);
    const all = async () => keepJob(await opened(view.id, WHOLE));
    const soon = window.setTimeout(() => void keep().catch(() => {}), KEEP_MS);
    const later = whole ? window.setTimeout(() => void all().catch(() => {}), KEEP_WHOLE_MS) : 0;
    return () => {
      window.clearTimeout(soon);
      window.clearTimeout(later);
    };
  }, [view, down, whole]);
}

/** Not heard, or heard by a program that is not well: it waits, and is sent again in its turn. */
function waits(said: Refusal): boolean {
  return said.status === 0 || said.status >= 500;
}

async function sentPhoto(at: At, row: Waiting, waited_s: number): Promise<Outcome> {
  const { step, by, file, place } = row.photo!;
  const query = new URLSearchParams({ step, by, waited_s: String(waited_s) });
  for (const [name, value] of Object.entries(place ?? {})) query.set(name, String(value));
  const response = await fetch(`/api/jobs/${at.path.job_id}/photos?${query}`, {
    method: "POST",
    headers: {
      "content-type": file.type || "image/jpeg",
      "if-match": at.header["if-match"],
      "idempotency-key": row.key,
      "evtro-show": "steps",
    },
    body: file,
  });
  const body: unknown = await response.json().catch(() => null);
  return response.ok ? { data: body, response } : { error: body, response };
}

export function JobProvider({
  id,
  needs,
  onSite = false,
  failed,
  children,
}: {
  id: string;
  /** Whether somebody is at work on site, where the network may go. */
  onSite?: boolean;
  /** The answers that the open page shows. */
  needs: readonly AnswerKey[];
  /** What stands in place of a job that cannot be shown. */
  failed: (refusal: Refusal, again: () => void) => ReactNode;
  children: ReactNode;
}) {
  const cache = useQueryClient();
  const key = useMemo(() => ["job", id], [id]);
  const [more, alsoShow] = useState<readonly AnswerKey[]>([]);
  const wanted = useMemo(() => [...new Set([...needs, ...more])], [needs, more]);
  lookAt(wanted);
  const found = useQuery<JobView, Refusal>({
    queryKey: key,
    queryFn: async () => {
      try {
        const now = await opened(id);
        network.standsFrom(null);
        return now;
      } catch (error) {
        if ((error as Refusal).status !== 0) throw error;
        // Without a network the job stands as it was shown here last.
        const known = await keptJob(id);
        const shown = cache.getQueryData<JobView>(key) ?? known?.view;
        if (!shown) throw error;
        network.standsFrom(known?.at ?? Date.now());
        return shown;
      }
    },
  });
  const there = found.data;
  const lacking = there ? wanted.filter((k) => there.answers[k] == null) : [];
  const rest = useQuery<JobView, Refusal>({
    queryKey: ["answers", id, there?.revision, ...lacking],
    queryFn: async () => {
      const got = await opened(id, lacking);
      // Answers of one revision are shown together, never of two.
      cache.setQueryData<JobView>(key, (now) =>
        now?.revision === got.revision
          ? { ...now, answers: { ...now.answers, ...got.answers } }
          : got,
      );
      return got;
    },
    enabled: lacking.length > 0,
    gcTime: 0,
  });
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const [waiting, setWaiting] = useState(0);
  const [refusal, setRefusal] = useState<Refusal | null>(null);
  const [unkept, setUnkept] = useState<Write | null>(null);
  const [kept, setKept] = useState(0);
  const [selected, select] = useState<string | null>(null);

  const seen = useRef<number | null>(null);
  const writing = useRef(0);
  const begins = useCallback(() => {
    // What this page is writing itself is no other's change.
    if (writing.current === 0) seen.current = cache.getQueryData<JobView>(key)?.revision ?? null;
  }, [cache, key]);

  const edit = useCallback(
    (write: Write, quiet = false, unseen = false): Promise<Refusal | null> => {
      const began = seen.current;
      seen.current = null;
      const run = async (): Promise<Refusal | null> => {
        const now = cache.getQueryData<JobView>(key);
        const at = {
          header: { "if-match": String(began ?? now?.revision ?? 0) },
          path: { job_id: id },
        };
        let said = NO_ANSWER;
        try {
          const { data, error, response } = await write(at);
          if (data && !isRefusal(data)) {
            const now = data as JobView;
            // Among many that go out nothing is drawn: the answers of before stand until the last of them.
            const stood = unseen ? cache.getQueryData<JobView>(key)?.answers : undefined;
            cache.setQueryData(
              key,
              stood ? { ...now, answers: { ...stood, ...now.answers } } : now,
            );
            const part = now.answers.part;
            if (part) cache.setQueryData(["part", id, part.part, now.revision], part);
            setRefusal(null);
            setUnkept(null);
            return null;
          }
          said = refusalOf(error ?? data, response);
        } catch {
          // said as it stands
        }
        // The newest state is shown beside what was typed here.
        if (said.status === 409) await cache.refetchQueries({ queryKey: key, exact: true });
        if (quiet) return said;
        setRefusal(said);
        setUnkept(sendAgain(said) ? () => write : null);
        return said;
      };
      setWaiting((n) => n + 1);
      writing.current += 1;
      const result = line.current.then(run).finally(() => {
        writing.current -= 1;
        setWaiting((n) => n - 1);
      });
      line.current = result;
      return result;
    },
    [cache, key, id],
  );
  const keyed = useCallback(
    (it: Change, key: string, quiet: boolean, unseen = false) =>
      edit(
        (at) =>
          client.POST("/api/jobs/{job_id}/changes", {
            params: { ...at, header: { ...at.header, "idempotency-key": key } },
            body: it as never,
            ...(unseen ? { headers: { "Evtro-Show": "" } } : {}),
          }),
        quiet,
        unseen,
      ),
    [edit],
  );
  const change = useCallback((it: Change) => keyed(it, crypto.randomUUID(), false), [keyed]);
  const waitingHere = useOutbox(id).length > 0;
  const sendRow = useCallback(
    (row: Waiting, more = false): Promise<Refusal | null> => {
      // By the device's own clock both times, right or wrong.
      const waited_s = Math.max(0, (Date.now() - row.at) / 1000);
      if (row.change) return keyed({ ...row.change, waited_s }, row.key, true, more);
      return edit((at) => sentPhoto(at, row, waited_s), true);
    },
    [edit, keyed],
  );
  const inTurn = useCallback(
    async (what: { change: Tick } | { photo: Taken }) => {
      const row = { key: crypto.randomUUID(), job: id, at: Date.now(), ...what };
      const said = waitingHere ? NO_ANSWER : await sendRow({ ...row, n: 0 });
      if (!said || !waits(said)) return said;
      await outbox.put(row);
      return null;
    },
    [sendRow, id, waitingHere],
  );
  const tick = useCallback((change: Tick) => inTurn({ change }), [inTurn]);
  const photo = useCallback((taken: Taken) => inTurn({ photo: taken }), [inTurn]);
  const gone = useNetworkDown();
  const lookAgain = useCallback(
    () => cache.refetchQueries({ queryKey: key, exact: true }),
    [cache, key],
  );
  useSending(id, there?.revision, sendRow, lookAgain);
  useLookAgain(lookAgain);
  useKeeping(there, gone, onSite);
  const dismiss = useCallback(() => {
    setRefusal(null);
    setUnkept(null);
  }, []);
  const view = found.data;
  const ready = lacking.length === 0;
  const [heard, hear] = useState(0);
  useRevisions(id, view?.revision, hear);
  // What this page writes itself comes back with its answer: until then nothing is read again.
  const newer = waiting === 0 && view && heard > view.revision ? heard : 0;
  useEffect(() => {
    if (newer) void cache.refetchQueries({ queryKey: key, exact: true });
  }, [newer, cache, key]);
  useEffect(() => () => lookAt([]), []);
  const desk = useMemo(() => {
    if (!view) return null;
    const again = unkept && (async () => !(await edit(unkept)) && setKept((n) => n + 1));
    return {
      view,
      ready,
      alsoShow,
      edit,
      change,
      tick,
      photo,
      begins,
      busy: waiting > 0,
      refusal,
      dismiss,
      again,
      kept,
      selected,
      select,
    };
  }, [
    view,
    ready,
    edit,
    change,
    tick,
    photo,
    begins,
    waiting,
    refusal,
    dismiss,
    unkept,
    kept,
    selected,
  ]);
  const error = found.error ?? (ready ? null : rest.error);
  if (!desk || (error && !ready)) {
    const again = () => void (found.error ? found.refetch() : rest.refetch());
    return error ? failed(error, again) : null;
  }
  return <Context.Provider value={desk}>{children}</Context.Provider>;
}
