import { useState } from "react";
import { Why } from "../parts/Value";
import type { Refusal, Step } from "../service/client";
import type { Put } from "./put";

/** How long a step takes: as is usual, or as whoever does it here says. */
export function Takes({ step, put }: { step: Step; put: (body: Put) => Promise<Refusal | null> }) {
  const [typed, type] = useState<string | null>(null);
  const [refused, refuse] = useState<Refusal | null>(null);
  const minutes = Math.round(step.minutes ?? 0);
  const own = step.minutes !== step.usual_min;
  if (!minutes) return null;
  const who = (step.crew ?? 1) > 1 ? "with a second person, " : "";
  const time = minutes >= 90 ? `${Math.round(minutes / 30) / 2} h` : `${minutes} min`;
  if (typed === null)
    return (
      <button
        type="button"
        onClick={() => type(String(minutes))}
        className="min-h-11 text-right text-body text-muted underline decoration-dotted"
      >
        <span className="sr-only">How long it takes: </span>
        {who}
        {time}
        {own ? " by you" : ""}
        {step.high ? ", at height" : ""}
      </button>
    );
  const keep = async (text: string) => {
    const said = await put({ minutes: text });
    refuse(said);
    if (!said) type(null);
  };
  return (
    <span className="text-body">
      <label className="flex items-center gap-2">
        <span className="text-muted">takes you, min</span>
        <input
          // biome-ignore lint/a11y/noAutofocus: it was asked for by the tap before
          autoFocus
          value={typed}
          inputMode="numeric"
          placeholder={String(Math.round(step.usual_min ?? 0))}
          onChange={(e) => type(e.target.value)}
          onBlur={() => void keep(typed)}
          onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
          className="num h-11 w-16 rounded-sm border border-tick bg-field px-2 text-right"
        />
      </label>
      <Why refused={refused} />
    </span>
  );
}
