import { STATE_WORDS } from "../units/severity";
import type { State } from "../wire/types";

export const WORD = STATE_WORDS as Record<State, string>;
export const TEXT: Record<State, string> = {
  ok: "text-ok",
  marginal: "text-marginal",
  fail: "text-fail",
  unknown: "text-muted",
};
export const COLOUR: Record<State, string> = {
  ok: "var(--color-ok)",
  marginal: "var(--color-marginal)",
  fail: "var(--color-fail)",
  unknown: "var(--color-muted)",
};

/** The shape of a state: open ring with tick, half ring, broken ring, dot. */
export function StateMark({ state, size = 20 }: { state: State; size?: number }) {
  const c = COLOUR[state];
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden="true" className="shrink-0">
      {state === "ok" && (
        <>
          <path d="M13.75 3.5A7.5 7.5 0 1 0 17.5 10" fill="none" stroke={c} strokeWidth="2.2" />
          <path d="M6.6 9.6l3.2 3.3 8-8.6" fill="none" stroke={c} strokeWidth="2.2" />
        </>
      )}
      {state === "marginal" && (
        <>
          <circle cx="10" cy="10" r="7.5" fill="none" stroke={c} strokeWidth="1" />
          <path d="M2.5 10a7.5 7.5 0 0 0 15 0" fill="none" stroke={c} strokeWidth="3" />
        </>
      )}
      {state === "fail" && (
        <path d="M11.3 2.6A7.5 7.5 0 1 0 17 12.5" fill="none" stroke={c} strokeWidth="2.6" />
      )}
      {state === "unknown" && <circle cx="10" cy="10" r="3.4" fill={c} />}
    </svg>
  );
}

export function StateWord({ state, mark = true }: { state: State; mark?: boolean }) {
  return (
    <span className={`inline-flex items-center gap-1.5 font-semibold ${TEXT[state]}`}>
      {mark && <StateMark state={state} size={18} />}
      {WORD[state]}
    </span>
  );
}
