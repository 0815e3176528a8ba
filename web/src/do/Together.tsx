import { RotateCcw } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { SCALE_UNIT } from "../instruments/scales";
import { client, device } from "../service/client";
import { useJobId } from "../service/job";
import { useSite } from "../service/site";
import { figureOf } from "../units/units";
import { whoIsHere } from "./put";

const CALM_MS = 150;

/** Calls a reading out to whoever turns, as it is typed; once the hand rests. */
export function useCallOut(antenna: string, scale: string) {
  const jobId = useJobId();
  const timer = useRef(0);
  useEffect(() => () => window.clearTimeout(timer.current), []);
  return (reading: string | number, again = false) => {
    window.clearTimeout(timer.current);
    if (String(reading).trim() === "") return;
    timer.current = window.setTimeout(() => {
      // What cannot be read, or does not arrive, is called out again with the next figure.
      void client
        .POST("/api/jobs/{job_id}/live-readings", {
          params: { path: { job_id: jobId } },
          body: { antenna, scale, reading, by: whoIsHere(), again },
        })
        .catch(() => {});
    }, CALM_MS);
  };
}

/** What another device at the job reads at this antenna just now; null where none does. */
export function useCalled(antenna: string) {
  const jobId = useJobId();
  const { called } = useSite(jobId);
  return called && called.antenna === antenna && called.device !== device() ? called : null;
}

/** One reads, one turns: the other's reading, large, and how far below the highest it is. */
export function Heard({ antenna, use }: { antenna: string; use?: (value: number) => void }) {
  const called = useCalled(antenna);
  if (!called) return null;
  const below = called.highest - called.value;
  return (
    <div
      role="status"
      aria-label="Read out"
      className="flex items-center justify-between gap-3 border-2 border-copper px-3 py-1"
    >
      <span className="text-body leading-5">
        <b>{called.by || "The other one"} reads</b>
        <span className="block text-muted">
          {below <= 0
            ? "the highest so far"
            : `${figureOf(below, 1)} below the highest, ${figureOf(called.highest, 1)}`}
        </span>
        {use && (
          <button type="button" className="min-h-11 underline" onClick={() => use(called.value)}>
            Take it here
          </button>
        )}
      </span>
      <span className="num font-semibold" style={{ fontSize: 56, lineHeight: 1 }}>
        {figureOf(called.value, 1)}
        <span className="ml-1 font-normal text-lead">
          {SCALE_UNIT[called.scale as keyof typeof SCALE_UNIT] ?? ""}
        </span>
      </span>
    </div>
  );
}

/** Where a step has no pad of its own: call out what the meter says, or hear it. */
export function Together({ antenna, scale }: { antenna: string; scale: string }) {
  const [typed, type] = useState("");
  const callOut = useCallOut(antenna, scale);
  return (
    <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-2">
      <Heard antenna={antenna} />
      <label className="flex h-16 items-center gap-3 rounded-sm border-2 border-ink bg-field px-3">
        <span>Read it out</span>
        <input
          value={typed}
          inputMode="decimal"
          onChange={(e) => {
            type(e.target.value);
            callOut(e.target.value);
          }}
          className="num min-w-0 flex-1 bg-transparent text-right font-semibold text-large outline-none"
        />
        <span>{SCALE_UNIT[scale as keyof typeof SCALE_UNIT] ?? ""}</span>
        <button
          type="button"
          aria-label="Begin again for the highest"
          onClick={() => callOut(typed, true)}
          className="grid h-11 w-11 place-items-center"
        >
          <RotateCcw size={20} aria-hidden="true" />
        </button>
      </label>
    </div>
  );
}
