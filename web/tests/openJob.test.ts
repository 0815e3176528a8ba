import "fake-indexeddb/auto";
import { QueryClient } from "@tanstack/react-query";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { JobView, Refusal } from "../src/service/client";

const sent = vi.hoisted(() => ({ GET: vi.fn(), POST: vi.fn() }));
vi.mock("../src/service/client", () => ({ client: sent }));
const { OpenJob } = await import("../src/service/openJob");
const { refusalOf } = await import("../src/service/refusals");

type Answer = { data?: Partial<JobView>; error?: Partial<Refusal>; status?: number };

const view = (revision: number, more: object = {}) =>
  ({ id: "house", revision, answers: {}, job: {}, named: {}, ...more }) as unknown as JobView;

const answer = ({ data, error, status = error ? (error.status ?? 422) : 200 }: Answer) => ({
  data,
  error,
  response: new Response(null, { status }),
});
const refusal = (status: number): Answer => ({
  error: { title: "No", status, code: "no", detail: "no.", remedy: "" },
});

/** Lets answers come when the test says so. */
function hold() {
  let open: (a: Answer) => void = () => {};
  const held = new Promise<Answer>((done) => {
    open = done;
  });
  return { open, answered: () => held.then(answer) };
}

function opened() {
  const cache = new QueryClient();
  const job = new OpenJob(cache, "house");
  cache.setQueryData(job.key, view(7));
  return job;
}
const set = (name: string) =>
  ({ verb: "set", rows: "job", id: "", values: { name }, as_is: false }) as const;
const notes = (rows: { change?: { note?: string | null } }[]) => rows.map((r) => r.change?.note);
const names = () => sent.POST.mock.calls.map(([, { body }]) => body.values?.name);

beforeEach(() => {
  sent.GET.mockReset();
  sent.POST.mockReset();
});

describe("writes of an open job", () => {
  it("go one after another, each with the revision of the answer before", async () => {
    const first = hold();
    sent.POST.mockReturnValueOnce(first.answered()).mockResolvedValueOnce(
      answer({ data: view(9) }),
    );
    const job = opened();
    const done = [job.change(set("a")), job.change(set("b"))];
    await Promise.resolve();
    expect(names()).toEqual(["a"]);
    expect(job.writes.getState().writing).toBe(2);
    first.open({ data: view(8) });
    expect(await Promise.all(done)).toEqual([null, null]);
    const seen = sent.POST.mock.calls.map(([, { params }]) => params.header["if-match"]);
    expect(seen).toEqual(["7", "8"]);
    expect(job.view()?.revision).toBe(9);
    expect(job.writes.getState().writing).toBe(0);
  });

  it("what stood behind a refused one is not sent, and both are sent again in their order", async () => {
    const first = hold();
    sent.POST.mockReturnValueOnce(first.answered());
    const job = opened();
    const done = [job.change(set("a")), job.change(set("b"))];
    first.open(refusal(507));
    const [a, b] = await Promise.all(done);
    expect(a?.status).toBe(507);
    expect(b?.code).toBe("not-sent");
    expect(names()).toEqual(["a"]);
    expect(job.writes.getState().refusal).toBe(a);
    sent.POST.mockResolvedValueOnce(answer({ data: view(8) })).mockResolvedValueOnce(
      answer({ data: view(9) }),
    );
    await job.again();
    expect(names()).toEqual(["a", "a", "b"]);
    expect(job.writes.getState().lifted).toEqual(new Set([a, b]));
    expect(job.writes.getState().refusal).toBeNull();
  });

  it("a write that is sent again keeps its key, so that it counts once", async () => {
    sent.POST.mockRejectedValueOnce(new Error("cut")).mockResolvedValueOnce(
      answer({ data: view(8) }),
    );
    const job = opened();
    expect((await job.change(set("a")))?.status).toBe(0);
    await job.again();
    const keys = sent.POST.mock.calls.map(([, { params }]) => params.header["idempotency-key"]);
    expect(new Set(keys).size).toBe(1);
    expect(keys).toHaveLength(2);
  });

  it("one that comes after the refusal was seen is sent", async () => {
    sent.POST.mockResolvedValueOnce(answer(refusal(422))).mockResolvedValueOnce(
      answer({ data: view(8) }),
    );
    const job = opened();
    expect((await job.change(set("a")))?.status).toBe(422);
    expect(await job.change(set("b"))).toBeNull();
    expect(names()).toEqual(["a", "b"]);
  });

  it("typing sees the job as it was when it began, also when another device writes meanwhile", async () => {
    sent.POST.mockResolvedValueOnce(answer(refusal(409)));
    sent.GET.mockResolvedValue(answer({ data: view(8) }));
    const job = opened();
    job.begins();
    Object.assign(job, { refetch: vi.fn() });
    (job as unknown as { show: (v: JobView) => void }).show(view(8));
    expect((await job.change(set("a")))?.status).toBe(409);
    expect(sent.POST.mock.calls[0]![1].params.header["if-match"]).toBe("7");
  });

  it("says what ids the rows got that it named", async () => {
    sent.POST.mockResolvedValueOnce(answer({ data: view(8, { named: { $new: "p12" } }) }));
    const done = await opened().make({ verb: "insert", type: "plate", called: "$new" } as never);
    expect(done).toEqual({ refusal: null, named: { $new: "p12" } });
  });

  it("asks for the answers of the open page, and of the part that is looked at", async () => {
    sent.POST.mockResolvedValue(answer({ data: view(8) }));
    const job = opened();
    job.page.setState({ needs: ["coax"], more: ["site"], part: "p3" });
    await job.change(set("a"));
    expect(sent.POST.mock.calls[0]![1].params.header["evtro-include"]).toBe("coax,site,part:p3");
  });
});

describe("ticks", () => {
  const tick = { verb: "tick", step: "site.entry", done: true, waited_s: 0, seen: {} } as const;

  it("wait where nobody answers, and are sent once in their order", async () => {
    sent.POST.mockRejectedValue(new Error("no network"));
    const job = opened();
    expect(await job.tick({ ...tick, note: "one" } as never)).toBeNull();
    expect(await job.tick({ ...tick, note: "two" } as never)).toBeNull();
    const { outbox } = await import("../src/service/outbox");
    expect(outbox.of("house").map((r) => r.change?.note)).toEqual(["one", "two"]);
    expect(sent.POST).toHaveBeenCalledTimes(1); // the second waits behind the first
    sent.POST.mockReset().mockResolvedValue(answer({ data: view(8) }));
    const { Sender } = await import("../src/service/sending");
    const send = vi.fn().mockResolvedValue([null, null]);
    await new Sender("house", send).go();
    await outbox.ready;
    expect(send.mock.calls.map(([rows]) => notes(rows))).toEqual([["one", "two"]]);
    expect(outbox.of("house")).toEqual([]);
  });

  it("of many go out at once; what was not looked at is sent again in its order", async () => {
    const { outbox } = await import("../src/service/outbox");
    const { Sender } = await import("../src/service/sending");
    for (const note of ["one", "two", "three", "four"])
      await outbox.put({ key: note, job: "house", at: 0, change: { ...tick, note } as never });
    sent.POST.mockResolvedValueOnce(
      answer({
        data: {
          view: view(8),
          refused: [null, { ...refusal(422).error, field: "Step" }],
        } as never,
      }),
    ).mockResolvedValueOnce(answer({ data: { view: view(10), refused: [null, null] } as never }));
    const job = opened();
    const send = (job as unknown as { sendRows: (rows: unknown) => Promise<never> }).sendRows;
    await new Sender("house", send).go();
    const bodies = sent.POST.mock.calls.map(([, { body }]) => notes(body.entries));
    expect(bodies).toEqual([
      ["one", "two", "three", "four"],
      ["three", "four"],
    ]);
    expect(outbox.of("house").map((r) => [r.key, r.refused])).toEqual([["two", "Step: no."]]);
    expect(job.view()?.revision).toBe(10);
    await outbox.drop(outbox.of("house"));
  });

  it("one that cannot be read with others is looked at by itself", async () => {
    const { outbox } = await import("../src/service/outbox");
    const { Sender } = await import("../src/service/sending");
    for (const note of ["one", "two"])
      await outbox.put({ key: note, job: "house", at: 0, change: { ...tick, note } as never });
    sent.POST.mockResolvedValueOnce(answer(refusal(413)))
      .mockResolvedValueOnce(answer(refusal(422)))
      .mockResolvedValueOnce(answer({ data: view(8) }));
    const send = (opened() as unknown as { sendRows: (rows: unknown) => Promise<never> }).sendRows;
    await new Sender("house", send).go();
    expect(sent.POST.mock.calls.map(([path]) => path.split("/").at(-1))).toEqual([
      "outbox",
      "changes",
      "changes",
    ]);
    expect(notes(outbox.of("house"))).toEqual(["one"]);
    await outbox.drop(outbox.of("house"));
  });

  it("one that is refused for good says so and does not wait", async () => {
    sent.POST.mockResolvedValueOnce(answer(refusal(422)));
    expect((await opened().tick(tick as never))?.status).toBe(422);
  });
});

describe("refusals", () => {
  it("an answer without words is told as one", () => {
    expect(refusalOf("<html>", new Response(null, { status: 502 })).code).toBe("wordless");
    expect(refusalOf(undefined).code).toBe("no-answer");
  });
});
