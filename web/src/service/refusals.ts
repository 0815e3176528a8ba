import { create } from "zustand";
import type { Refusal } from "./client";

/** What is told when the program gave no words of its own. */
function plain(part: Partial<Refusal>): Refusal {
  return {
    type: "about:blank",
    title: "",
    status: 0,
    code: "",
    field: "",
    detail: "",
    remedy: "",
    detail_said: [],
    remedy_said: [],
    choices: [],
    clashes: [],
    ...part,
  };
}

export const NO_ANSWER = plain({
  title: "No answer",
  code: "no-answer",
  detail: "the program does not answer.",
  remedy: "Look whether it still runs; what is typed here stays.",
});

/** What a write gets that stood behind a refused one: it may have been meant to follow it. */
export const NOT_SENT = plain({
  title: "Not sent",
  code: "not-sent",
  detail: "the change before it was refused.",
  remedy: "Correct that one first, then send this one again.",
});

/** Whatever went wrong, in words: the service's own, or that it gave none. */
export function refusalOf(error: unknown, response?: Response): Refusal {
  const said = error as Partial<Refusal> | null | undefined;
  if (said && typeof said === "object" && typeof said.detail === "string" && said.title) {
    const refusal = plain(said);
    if (refusal.code === "passphrase") void lookAtDoor();
    return refusal;
  }
  if (!response) return NO_ANSWER;
  return plain({
    title: "No answer in words",
    status: response.status,
    code: "wordless",
    detail: `the program answered ${response.status} and gave no reason.`,
    remedy: "Try again; if it stays so, start the program again.",
  });
}

/** Not the fault of what was typed: the same may be kept when it is sent again. */
export function sendAgain(refusal: Refusal): boolean {
  return (
    refusal.status === 0 ||
    refusal.status === 401 ||
    refusal.status === 409 ||
    refusal.status === 429 ||
    refusal.status >= 500
  );
}

/** What no field tells: the frame tells it above the page. */
export function toldAbove(refusal: Refusal): boolean {
  return sendAgain(refusal) || refusal.code === "read-since";
}

/** A call that is not one of the generated client's, as data or a refusal. */
export async function send<T>(path: string, init: RequestInit): Promise<T | Refusal> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch {
    return NO_ANSWER;
  }
  const body = response.status === 204 ? {} : await response.json().catch(() => null);
  return response.ok ? (body as T) : refusalOf(body, response);
}

export function isRefusal(found: unknown): found is Refusal {
  return typeof found === "object" && found !== null && "status" in found && "remedy" in found;
}

/** What a call of the generated client brought: its data, or the refusal to throw or to show. */
export async function told<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let found: { data?: T; error?: unknown; response: Response };
  try {
    found = await call;
  } catch {
    throw NO_ANSWER;
  }
  if (!found.response.ok) throw refusalOf(found.error, found.response);
  return found.data as T;
}

type Door = {
  /** Whether the program asks for its passphrase. */
  shut: boolean;
  /** How often somebody came in. */
  visits: number;
  /** How often a refusal at the door came too late: whoever asked is let in by now, and asks again. */
  late: number;
};
export const door = create<Door>()(() => ({ shut: false, visits: 0, late: 0 }));

/** Somebody said the passphrase. */
export function cameIn() {
  door.setState((s) => ({ shut: false, visits: s.visits + 1 }));
}

/** A refusal may be the late answer to what was asked before somebody came in: it is asked once more. */
async function lookAtDoor() {
  const then = door.getState().visits;
  const answer = await fetch("/api/health").catch(() => null);
  if (answer?.ok) door.setState((s) => ({ late: s.late + 1 }));
  else if (answer?.status === 401 && then === door.getState().visits) door.setState({ shut: true });
}

/** Queries that failed through no fault of their question, by their key. */
export const unread = create<{ rows: ReadonlyMap<string, Refusal> }>()(() => ({ rows: new Map() }));
