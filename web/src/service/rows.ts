import type { Change, Job, Refusal } from "./client";
import { useJob, useWrites } from "./job";

type Done = Promise<Refusal | null>;
type ListsOf<J> = {
  [K in keyof J]-?: NonNullable<J[K]> extends readonly { id: string }[] ? K : never;
}[keyof J];
type RowsOf<J, K extends keyof J> = NonNullable<J[K]> extends readonly (infer R)[] ? R : never;

/** The lists of a job, and what a row of each holds: read from the service's own description. */
export type List = ListsOf<Job> & string;
export type RowOf<K extends List> = RowsOf<Job, K>;
/** What there is one of in a job. */
export type Single =
  | "site"
  | "mast"
  | "earth"
  | "handover"
  | "company"
  | "run_school"
  | "rig"
  | "terminal"
  | "job";

/** Fields as figures, or as somebody typed them. */
export type Typed<R> = { [F in keyof R]?: R[F] | string | null };
/** What a new row may be told by instead of its own fields. */
type Told<K> = K extends "targets"
  ? { position?: string }
  : K extends "obstructions"
    ? { line?: string }
    : unknown;

/** The rows of a list of the open job, and the ways to change them. */
export function useRows<K extends List>(rows: K) {
  return { rows: (useJob(rows)[rows] ?? []) as RowOf<K>[], ...useRowWrites(rows) };
}

/** The ways to change the rows of a list of the open job. */
export function useRowWrites<K extends List>(rows: K) {
  const { change } = useWrites();
  return {
    add: (values: Typed<Omit<RowOf<K>, "id">> & Told<K>): Done => change(added(rows, values)),
    set: (id: string, values: Typed<Omit<RowOf<K>, "id">>): Done =>
      change(setting(rows, id, values)),
    remove: (id: string): Done => change({ verb: "remove", rows, id }),
  };
}

/** The change that gives fields of a row other values. */
export function setting<K extends List>(
  rows: K,
  id: string,
  values: Typed<Omit<RowOf<K>, "id">>,
): Change {
  return { verb: "set", rows, id, values: values as Record<string, unknown>, as_is: false };
}

export function added(rows: string, values: object): Change {
  return { verb: "add", rows, values: values as Record<string, unknown>, as_is: false };
}

/** Writes what a meter said of a carrier at a place; a row that says nothing any more goes. */
export function useMeterRows<K extends "readings" | "trial_readings">(
  rows: K,
  place: K extends "readings" ? "part" : "spot",
) {
  const list = useRows(rows);
  return (at: string, carrier: string, values: Said): Done => {
    const known = list.rows as ({ id: string; carrier: string } & Said)[];
    const old = known.find(
      (r) => (r as Record<string, unknown>)[place] === at && r.carrier === carrier,
    );
    const said = { level_dbuv: old?.level_dbuv, cn_db: old?.cn_db, ...values };
    const empty = (said.level_dbuv ?? "") === "" && (said.cn_db ?? "") === "";
    if (old) return empty ? list.remove(old.id) : list.set(old.id, values as object);
    return empty ? Promise.resolve(null) : list.add({ [place]: at, carrier, ...values } as never);
  };
}

type Said = { level_dbuv?: string | number | null; cn_db?: string | number | null };

/** Changes fields of what there is one of in the open job. */
export function useSingle(rows: Single) {
  const { change } = useWrites();
  return (values: Record<string, unknown>): Done =>
    change({ verb: "set", rows, id: "", values, as_is: false });
}

export function sameChange(a: Change | null | undefined, b: Change | null | undefined): boolean {
  return JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
}
