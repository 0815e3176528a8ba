import { useMemo, useSyncExternalStore } from "react";
import { kept, type Waiting } from "./kept";

const OLD = "evtro.outbox";
const hearers = new Set<() => void>();
const others =
  typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("evtro.outbox");
let rows: Waiting[] = [];
let unkept = -1;

function show(next: Waiting[]) {
  rows = next;
  for (const hear of hearers) hear();
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

async function told(
  change: (db: NonNullable<Awaited<ReturnType<typeof kept>>>) => Promise<unknown>,
) {
  await ready;
  const db = await kept();
  if (!db) return false;
  await change(db);
  await read();
  others?.postMessage(null);
  return true;
}

export const outbox = {
  ready,
  /** Keeps what was done; resolves when it would outlive a reload, or lies in the page at least. */
  put: async (row: Omit<Waiting, "n">) => {
    const over = await told((db) => db.add("outbox", row)).catch(() => false);
    if (!over) show([...rows, { ...row, n: unkept-- }]);
  },
  drop: async (row: Waiting) => {
    if (row.n < 0) show(rows.filter((r) => r.n !== row.n));
    else await told((db) => db.delete("outbox", row.n));
  },
  refuse: async (row: Waiting, refused: string) => {
    if (row.n < 0) show(rows.map((r) => (r.n === row.n ? { ...r, refused } : r)));
    else await told((db) => db.put("outbox", { ...row, refused }));
  },
  /** What was refused is tried once more: something else has changed since. */
  anew: async (job: string) => {
    await ready;
    for (const row of rows.filter((r) => r.job === job && r.refused)) {
      if (row.n < 0) show(rows.map((r) => (r.n === row.n ? { ...r, refused: undefined } : r)));
      else await told((db) => db.put("outbox", { ...row, refused: undefined }));
    }
  },
};

function subscribe(hear: () => void) {
  hearers.add(hear);
  return () => void hearers.delete(hear);
}

/** What of a job waits here, in the order in which it was done. */
export function useOutbox(job: string): Waiting[] {
  const all = useSyncExternalStore(subscribe, () => rows);
  return useMemo(() => all.filter((r) => r.job === job), [all, job]);
}
