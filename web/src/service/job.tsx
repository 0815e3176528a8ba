import { useQuery, useQueryClient } from "@tanstack/react-query";
import {
  createContext,
  type ReactNode,
  useContext,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from "react";
import { useStore } from "zustand";
import { shallow } from "zustand/shallow";
import type { AnswerKey, Answers, Job, JobView, Refusal } from "./client";
import { useLookAgain } from "./network";
import { OpenJob, type PageState, type WriteState } from "./openJob";
import { useRevisions } from "./revisions";

export type { At, Done, Write } from "./openJob";

const Context = createContext<OpenJob | null>(null);

/** The writes of the open job: the same functions as long as it is open. */
export function useWrites(): OpenJob {
  const open = useContext(Context);
  if (!open) throw new Error("no job is open");
  return open;
}

/** The open job where there is one. */
export const useOpenJob = (): OpenJob | null => useContext(Context);

export const useJobId = (): string => useWrites().id;

/** What a selector picks of the open job and its answers; drawn again only when that changed. */
export function useView<T>(pick: (view: JobView) => T): T {
  const open = useWrites();
  const last = useRef<T | undefined>(undefined);
  return useSyncExternalStore(open.subscribe, () => {
    const next = pick(open.view()!);
    if (!shallow(last.current, next)) last.current = next;
    return last.current as T;
  });
}

function picked<T extends object, K extends keyof T>(from: T, keys: readonly K[]): Pick<T, K> {
  return Object.fromEntries(keys.map((k) => [k, from[k]])) as Pick<T, K>;
}

/** Some rows of the open job, such as `useJob("mast", "site")`. */
export function useJob<K extends keyof Job>(...keys: K[]): Pick<Job, K> {
  return useView((view) => picked(view.job as Job, keys));
}

/** Some answers of the open job, such as `useAnswers("mast")`. */
export function useAnswers<K extends keyof Answers>(...keys: K[]): Pick<Answers, K> {
  return useView((view) => picked(view.answers, keys));
}

/** What a selector picks of the state of the writes. */
export const useWriteState = <T,>(pick: (state: WriteState) => T): T =>
  useStore(useWrites().writes, pick);

const usePageState = <T,>(pick: (state: PageState) => T): T => useStore(useWrites().page, pick);

/** The part that is selected in the network. */
export const useSelected = (): string | null => usePageState((s) => s.selected);

/** Asks for more answers than the page needs by itself, while it is on. */
export function useMoreAnswers(keys: readonly AnswerKey[], on: boolean) {
  const { page } = useWrites();
  useEffect(() => {
    if (!on) return;
    page.setState({ more: keys });
    return () => page.setState({ more: [] });
  }, [page, keys, on]);
}

/** Asks for the carriers of a part with every answer. */
export function usePartShown(part: string | null) {
  const { page } = useWrites();
  useEffect(() => {
    page.setState({ part });
    return () => page.setState({ part: null });
  }, [page, part]);
}

/** Whether some answers are there. */
export const useReady = (keys: readonly AnswerKey[]): boolean =>
  useView((view) => keys.every((k) => view.answers[k] != null));

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
  const [open] = useState(() => new OpenJob(cache, id));
  // Before anything is asked for: layout effects come before the subscriptions of queries.
  useLayoutEffect(() => {
    open.page.setState({ needs });
    open.onSite = onSite;
  }, [open, needs, onSite]);
  const more = useStore(open.page, (s) => s.more);
  const found = useQuery<JobView, Refusal, Head>({
    queryKey: open.key,
    queryFn: open.read,
    select: headOf,
  });
  const there = found.data;
  const wanted = useMemo(() => [...new Set([...needs, ...more])], [needs, more]);
  const lacking = there ? wanted.filter((k) => !there.answers.includes(k)) : [];
  const rest = useQuery<number, Refusal>({
    queryKey: ["answers", id, there?.revision, ...lacking],
    queryFn: () => open.readAnswers(lacking),
    enabled: lacking.length > 0,
    gcTime: 0,
  });
  const known = there !== undefined;
  useEffect(() => open.start(), [open]);
  useLookAgain(open.refetch);
  useRevisions(open, known);
  const error = found.error ?? (lacking.length ? rest.error : null);
  if (!known || (error && lacking.length)) {
    const again = () => void (found.error ? found.refetch() : rest.refetch());
    return error ? failed(error, again) : null;
  }
  return <Context.Provider value={open}>{children}</Context.Provider>;
}

/** What the provider needs to know of a job: which answers are there, of which revision. */
type Head = { revision: number; answers: string[] };

function headOf(view: JobView): Head {
  const answers = Object.entries(view.answers).flatMap(([k, v]) => (v == null ? [] : [k]));
  return { revision: view.revision, answers };
}
