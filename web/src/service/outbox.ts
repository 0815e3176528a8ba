import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { kept, type Waiting } from "./kept";

const OLD = "evtro.outbox";
const others =
  typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("evtro.outbox");
let rows: Waiting[] = [];
const shown = create<{ rows: Waiting[] }>()(() => ({ rows: [] }));
let unkept = -1;

function show(next: Waiting[]) {
  rows = next;
  shown.setState({ rows });
}

async function read() {
  const db = await kept();
  if (db) show((await db.getAll("outbox")) as Waiting[]);
}

/** What an older page kept elsewhere is taken over, in its order. */
async function takeOver() {
  const db = await kept();
  const text = localStorage.getItem(OLD);
  if (!db || !text) return;
  try {
    const found = JSON.parse(text) as (Omit<Waiting, "n" | "at"> & { at: string })[];
    for (const row of found) await db.add("outbox", { ...row, at: Date.parse(row.at) });
  } catch {
    // what cannot be read was never this program's
  }
  localStorage.removeItem(OLD);
}

const ready = takeOver()
  .catch(() => {})
  .then(read);
others?.addEventListener("message", () => void read());

/** Does something to the kept rows and shows the same here; false where this browser keeps nothing. */
async function told(
  change: (db: NonNullable<Awaited<ReturnType<typeof kept>>>) => Promise<unknown>,
  after: (rows: Waiting[], n: number) => Waiting[],
) {
  await ready;
  const db = await kept();
  if (!db) return false;
  const n = await change(db);
  show(after(rows, Number(n ?? 0)));
  others?.postMessage(null);
  return true;
}

/** As many as go out at once; the service takes no more. */
const AT_ONCE = 50;

const instead = (row: Waiting) => (all: Waiting[]) => all.map((r) => (r.n === row.n ? row : r));

async function put(row: Waiting) {
  if (row.n < 0) show(instead(row)(rows));
  else await told((db) => db.put("outbox", row), instead(row));
}

export const outbox = {
  ready,
  subscribe: shown.subscribe,
  /** All of a job that waits. */
  of: (job: string) => rows.filter((r) => r.job === job),
  /** What of a job is to be sent next: steps of many at once, a photograph by itself. */
  next: (job: string): Waiting[] => {
    const open = rows.filter((r) => r.job === job && !r.refused);
    const steps = open.findIndex((r) => r.photo);
    return open.slice(0, steps === 0 ? 1 : Math.min(steps < 0 ? AT_ONCE : steps, AT_ONCE));
  },
  /** Keeps what was done; resolves when it would outlive a reload, or lies in the page at least. */
  put: async (row: Omit<Waiting, "n">) => {
    const over = await told(
      (db) => db.add("outbox", row),
      (all, n) => [...all, { ...row, n }],
    ).catch(() => false);
    if (!over) show([...rows, { ...row, n: unkept-- }]);
  },
  /** What was taken. */
  drop: async (gone: readonly Waiting[]) => {
    const all = new Set(gone.map((r) => r.n));
    const without = (rows: Waiting[]) => rows.filter((r) => !all.has(r.n));
    const kept = gone.filter((r) => r.n >= 0);
    if (!kept.length) show(without(rows));
    else
      await told((db) => {
        const turn = db.transaction("outbox", "readwrite");
        return Promise.all([...kept.map((r) => turn.store.delete(r.n)), turn.done]);
      }, without);
  },
  refuse: (row: Waiting, refused: string) => put({ ...row, refused }),
  /** What was refused is tried once more: something else has changed since. */
  retry: async (job: string) => {
    await ready;
    for (const row of rows.filter((r) => r.job === job && r.refused))
      await put({ ...row, refused: undefined });
  },
};

/** What of a job waits here, in the order in which it was done. */
export const useOutbox = (job: string): Waiting[] =>
  shown(useShallow((s) => s.rows.filter((r) => r.job === job)));
