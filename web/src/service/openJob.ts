import type { QueryClient } from "@tanstack/react-query";
import { createStore } from "zustand/vanilla";
import { type AnswerKey, type Change, client, type JobView, type Refusal } from "./client";
import type { Photo, Tick, Waiting } from "./kept";
import { keepJob, keptJob } from "./kept";
import { network } from "./network";
import { outbox } from "./outbox";
import { isRefusal, NO_ANSWER, NOT_SENT, refusalOf, sendAgain, told, toldAbove } from "./refusals";
import { Sender } from "./sending";

/** What a write got back from the service. */
export type Outcome = { data?: unknown; error?: unknown; response: Response };
export type At = {
  header: { "if-match": string; "evtro-include": string };
  path: { job_id: string };
};
export type Write = (at: At) => Promise<Outcome>;
/** What a write came to: the names that the service gave to what was added, or why it was refused. */
export type Done = { refusal: Refusal | null; named: Record<string, string> };

type How = {
  /** Its sender deals with a refusal: nothing is shown for it and nothing behind it is held up. */
  quiet?: boolean;
};
type Unsent = { write: Write; refusal: Refusal };

export type WriteState = {
  /** How many writes are on their way. */
  writing: number;
  refusal: Refusal | null;
  /** Writes that can be sent again, in their order. */
  unsent: readonly Unsent[];
  /** Refusals whose writes were sent again and accepted. */
  lifted: ReadonlySet<Refusal>;
};
export type PageState = {
  /** Answers that the open page shows, and those that something on it asked for. */
  needs: readonly AnswerKey[];
  more: readonly AnswerKey[];
  /** The part whose carriers are looked at. */
  part: string | null;
  selected: string | null;
};

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
// A job is stored on this device once nobody has changed it for a while, on site a little later with all answers.
const KEEP_MS = 1500;
const KEEP_WHOLE_MS = 4000;

const keyOf = (id: string) => ["job", id] as const;

/** A job that is open on this page: reads and writes it in order. Knows nothing of React. */
export class OpenJob {
  readonly key: readonly [string, string];
  readonly writes = createStore<WriteState>()(() => ({
    writing: 0,
    refusal: null,
    unsent: [],
    lifted: new Set<Refusal>(),
  }));
  readonly page = createStore<PageState>()(() => ({
    needs: [],
    more: [],
    part: null,
    selected: null,
  }));
  private readonly readers = new Set<() => void>();
  private readonly sender: Sender;
  /** The revision that was on screen when somebody began to type. */
  private saw: number | null = null;
  /** Writes are counted; those up to `halted` are not sent: one before them was refused. */
  private count = 0;
  private halted = 0;
  /** The newest revision that another device is known to have made. */
  private heard = 0;

  constructor(
    private readonly cache: QueryClient,
    readonly id: string,
  ) {
    this.key = keyOf(id);
    this.sender = new Sender(id, this.sendRows);
  }

  view = (): JobView | undefined => this.cache.getQueryData<JobView>(this.key);

  /** Told when the job or its answers changed. */
  readonly subscribe = (hear: () => void) => {
    this.readers.add(hear);
    return () => void this.readers.delete(hear);
  };

  /** Follows the job until the page closes: stores it on this device, sends what waits here. */
  start(): () => void {
    let revision: number | undefined;
    let soon = 0;
    let later = 0;
    const whole = async () => keepJob(await this.opened(WHOLE.join(",")));
    const keep = () => {
      window.clearTimeout(soon);
      window.clearTimeout(later);
      if (network.getState().down) return;
      soon = window.setTimeout(() => void keepJob(this.view()!).catch(() => {}), KEEP_MS);
      if (this.onSite) later = window.setTimeout(() => void whole().catch(() => {}), KEEP_WHOLE_MS);
    };
    const changed = () => {
      const view = this.view();
      if (!view) return;
      for (const hear of this.readers) hear();
      keep();
      if (view.revision === revision) return;
      revision = view.revision;
      // Another revision is another chance for what was refused.
      void outbox.retry(this.id).then(this.sender.go);
    };
    const unread = this.cache.getQueryCache().subscribe((event) => {
      if (
        event.type === "updated" &&
        event.query.queryKey[1] === this.id &&
        this.isOwn(event.query)
      )
        changed();
    });
    const unsent = outbox.subscribe(() => {
      if (this.view() && outbox.next(this.id).length) void this.sender.go();
    });
    window.addEventListener("online", this.sender.go);
    changed();
    return () => {
      unread();
      unsent();
      this.sender.stop();
      window.removeEventListener("online", this.sender.go);
      window.clearTimeout(soon);
      window.clearTimeout(later);
    };
  }

  private isOwn(query: { queryKey: readonly unknown[] }) {
    return query.queryKey.length === 2 && query.queryKey[0] === this.key[0];
  }

  /** Whether somebody is at work on site, where the network may go. */
  onSite = false;

  /** The answers that go with every reply of the service. */
  private shown(): string {
    const { needs, more, part } = this.page.getState();
    const all: string[] = [...new Set([...needs, ...more])];
    return (part ? [...all, `part:${part}`] : all).join(",");
  }

  private opened(show: string): Promise<JobView> {
    return told(
      client.GET("/api/jobs/{job_id}", {
        params: { path: { job_id: this.id } },
        headers: { "Evtro-Include": show },
      }),
    ) as Promise<JobView>;
  }

  /** Reads the job; without a network it is the one that this device showed last. */
  readonly read = async (): Promise<JobView> => {
    try {
      const now = await this.opened(this.shown());
      network.getState().standsFrom(null);
      return now;
    } catch (error) {
      if ((error as Refusal).status !== 0) throw error;
      const known = await keptJob(this.id);
      const shown = this.view() ?? known?.view;
      if (!shown) throw error;
      network.getState().standsFrom(known?.at ?? Date.now());
      return shown;
    }
  };

  /** Adds answers that the page lacks; answers of one revision are shown together, never of two. */
  readonly readAnswers = async (keys: readonly AnswerKey[]): Promise<number> => {
    const got = await this.opened(keys.join(","));
    this.cache.setQueryData<JobView>(this.key, (now) =>
      now?.revision === got.revision
        ? { ...now, answers: { ...now.answers, ...got.answers } }
        : got,
    );
    return got.revision;
  };

  readonly refetch = () => this.cache.refetchQueries({ queryKey: this.key, exact: true });

  /** Another device made a revision: it is read unless this page is writing itself. */
  readonly hear = (revision: number) => {
    this.heard = Math.max(this.heard, revision);
    this.readIfNewer();
  };

  private readIfNewer() {
    const known = this.view()?.revision;
    if (this.writes.getState().writing === 0 && known !== undefined && this.heard > known)
      void this.refetch();
  }

  /** Somebody begins to type: what is written next saw the job as it is now. */
  readonly begins = () => {
    // What this page is writing itself is no other's change.
    if (this.writes.getState().writing === 0) this.saw = this.view()?.revision ?? null;
  };

  /** Runs writes one after another, each with the newest revision. Resolves to a refusal or null. */
  readonly edit = async (write: Write): Promise<Refusal | null> =>
    (await this.queue(write)).refusal;

  /** Carries out a change. Sent again after a lost answer it is still carried out once. */
  readonly change = async (change: Change): Promise<Refusal | null> =>
    (await this.make(change)).refusal;

  /** Carries out a change and says what ids its new rows got, by the names that it gave them. */
  readonly make = (change: Change): Promise<Done> =>
    this.queue(this.changing(change, crypto.randomUUID()));

  private typed: Change | null = null;
  private foreseeing = false;

  /** Has the service compute what a change would do while it is still being typed, so that the answer is ready
   *  when the change is made. Nothing is stored, and a failure is ignored. */
  readonly foresee = (change: Change) => {
    this.typed = change;
    if (!this.foreseeing) void this.foreseeAll();
  };

  private async foreseeAll() {
    this.foreseeing = true;
    while (this.typed) {
      const body = this.typed;
      this.typed = null;
      // A write that is under way changes the job first: what is computed now could not be used.
      if (network.getState().down || this.writes.getState().writing) continue;
      const params = { path: { job_id: this.id } };
      const headers = { "Evtro-Include": this.shown() };
      await client
        .POST("/api/jobs/{job_id}/foreseen", { params, headers, body: body as never })
        .catch(() => {});
    }
    this.foreseeing = false;
  }

  /** Ticks a step. Without an answer it waits here, in its turn, and is sent when there is one. */
  readonly tick = (change: Tick) => this.inTurn({ change });

  /** Keeps a photograph of a step, in its turn with the ticks. */
  readonly photo = (photo: Photo) => this.inTurn({ photo });

  readonly dismiss = () => this.writes.setState({ refusal: null, unsent: [] });

  /** Sends again what was refused through no fault of its own, in its order. */
  readonly again = async () => {
    const rows = this.writes.getState().unsent;
    this.dismiss();
    const done = await Promise.all(rows.map((row) => this.queue(row.write)));
    const accepted = rows.filter((_, i) => !done[i]!.refusal).map((row) => row.refusal);
    this.writes.setState((s) => ({ lifted: new Set([...s.lifted, ...accepted]) }));
  };

  readonly select = (part: string | null) => this.page.setState({ selected: part });

  private queue(write: Write, how: How = {}): Promise<Done> {
    this.typed = null;
    const saw = this.saw;
    this.saw = null;
    this.count += 1;
    const turn = this.count;
    this.writes.setState((s) => ({ writing: s.writing + 1 }));
    const mutation = this.cache.getMutationCache().build<Done, never, void, unknown>(this.cache, {
      mutationFn: () =>
        turn <= this.halted && !how.quiet
          ? Promise.resolve(this.refused(write, { ...NOT_SENT }))
          : this.send(write, saw, how),
      // In their order also while the browser says that there is no network: the server may be this machine.
      scope: { id: `job ${this.id}` },
      networkMode: "always",
      gcTime: 0,
    });
    return mutation.execute().finally(() => {
      this.writes.setState((s) => ({ writing: s.writing - 1 }));
      this.readIfNewer();
    });
  }

  private async send(write: Write, saw: number | null, how: How): Promise<Done> {
    const at: At = {
      header: {
        "if-match": String(saw ?? this.view()?.revision ?? 0),
        "evtro-include": this.shown(),
      },
      path: { job_id: this.id },
    };
    let refusal = { ...NO_ANSWER };
    try {
      const { data, error, response } = await write(at);
      if (data && !isRefusal(data)) {
        const now = data as JobView;
        this.show(now);
        if (!how.quiet) this.dismiss();
        return { refusal: null, named: now.named ?? {} };
      }
      refusal = { ...refusalOf(error ?? data, response) };
    } catch {
      // no answer: said as it stands
    }
    // The newest state is shown beside what was typed here.
    if (refusal.status === 409) await this.refetch();
    if (how.quiet) return { refusal, named: {} };
    this.halted = this.count;
    return this.refused(write, refusal);
  }

  private show(now: JobView) {
    this.cache.setQueryData<JobView>(this.key, now);
    const part = now.answers.part;
    if (part) this.cache.setQueryData(["part", this.id, part.part, now.revision], part);
  }

  private refused(write: Write, refusal: Refusal): Done {
    this.writes.setState((s) => ({
      // Why the first of several was refused explains the others.
      refusal:
        refusal.code === NOT_SENT.code && s.refusal && toldAbove(s.refusal) ? s.refusal : refusal,
      unsent: sendAgain(refusal) ? [...s.unsent, { write, refusal }] : s.unsent,
    }));
    return { refusal, named: {} };
  }

  private changing(change: Change, key: string): Write {
    return (at) =>
      client.POST("/api/jobs/{job_id}/changes", {
        params: { ...at, header: { ...at.header, "idempotency-key": key } },
        body: change as never,
      });
  }

  private readonly sendRow = async (row: Waiting): Promise<Refusal | null> => {
    const write: Write = row.change
      ? this.changing(late(row), row.key)
      : (at) => sendPhoto(at, row, waited_s(row));
    return (await this.queue(write, { quiet: true })).refusal;
  };

  private readonly sendRows = async (rows: readonly Waiting[]) => {
    if (rows.length === 1) return [await this.sendRow(rows[0]!)];
    let refused: (Refusal | null)[] = [];
    const write: Write = async (at) => {
      const entries = rows.map((row) => ({ key: row.key, change: late(row) }));
      const found = await client.POST("/api/jobs/{job_id}/outbox", {
        params: at,
        body: { entries },
      });
      refused = found.data?.refused ?? [];
      return { ...found, data: found.data?.view };
    };
    const { refusal } = await this.queue(write, { quiet: true });
    if (!refusal) return refused;
    // What cannot be read as a whole is looked at one by one.
    return [sendAgain(refusal) ? refusal : await this.sendRow(rows[0]!)];
  };

  private async inTurn(what: { change: Tick } | { photo: Photo }): Promise<Refusal | null> {
    const row = { key: crypto.randomUUID(), job: this.id, at: Date.now(), ...what };
    const waiting = outbox.of(this.id).length > 0;
    const refusal = waiting ? NO_ANSWER : await this.sendRow({ ...row, n: 0 });
    // Not heard, or heard by a program that is not well: it waits, and is sent again in its turn.
    if (!refusal || !(refusal.status === 0 || refusal.status >= 500)) return refusal;
    await outbox.put(row);
    return null;
  }
}

/** How long ago it was done, by the device's own clock both times, right or wrong. */
const waited_s = (row: Waiting) => Math.max(0, (Date.now() - row.at) / 1000);

const late = (row: Waiting): Tick => ({ ...row.change!, waited_s: waited_s(row) });

async function sendPhoto(at: At, row: Waiting, waited_s: number): Promise<Outcome> {
  const { step, by, file, place } = row.photo!;
  const query = new URLSearchParams({ step, by, waited_s: String(waited_s) });
  for (const [name, value] of Object.entries(place ?? {})) query.set(name, String(value));
  const response = await fetch(`/api/jobs/${at.path.job_id}/photos?${query}`, {
    method: "POST",
    headers: {
      "content-type": file.type || "image/jpeg",
      "if-match": at.header["if-match"],
      "idempotency-key": row.key,
      "evtro-include": "steps",
    },
    body: file,
  });
  const body: unknown = await response.json().catch(() => null);
  return response.ok ? { data: body, response } : { error: body, response };
}
