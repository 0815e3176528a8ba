import { OctagonX, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { go } from "../parts/go";
import { STATIONS } from "../parts/stations";
import { Tick } from "../parts/Value";
import type { Refusal, Step } from "../service/client";
import { useAnswers, useJobId } from "../service/job";
import type { RowOf } from "../service/rows";
import { Overhead } from "../stations/earth/Overhead";
import { Say } from "../units/showing";
import { type Put, thisIs, whoIsHere } from "./put";

/** A danger that someone confirms by name before anything behind it goes on. */
export function Gate({
  step,
  mark,
  put,
}: {
  step: Step;
  mark?: RowOf<"marks">;
  put: (body: Put) => Promise<Refusal | null>;
}) {
  const [who, setWho] = useState(whoIsHere);
  const confirm = (danger_read: boolean) => {
    thisIs(who);
    return put({ danger_read, by: who });
  };
  return (
    <div className="border-2 border-fail p-3">
      <p className="m-0 flex items-center gap-2 font-bold text-fail">
        <TriangleAlert size={22} aria-hidden="true" /> Danger: {step.danger}
      </p>
      <p className="m-0 my-2">{step.danger_text}</p>
      {step.key === "site.overhead" && <Overhead />}
      <div className="border-line border-t pt-2">
        <Tick label={step.gate ?? ""} large on={mark?.danger_read ?? false} onChange={confirm} />
        {mark?.danger_read ? (
          <p className="m-0 text-body text-muted">
            {mark.confirmed_by || "confirmed"}
            {mark.confirmed_at ? `, ${mark.confirmed_at.slice(0, 16).replace("T", " ")}` : ""}
          </p>
        ) : (
          <label className="flex items-center gap-3 text-body">
            <span className="whitespace-nowrap text-muted">Who looked</span>
            <input
              value={who}
              onChange={(e) => setWho(e.target.value)}
              placeholder="name"
              className="h-11 min-w-0 flex-1 rounded-sm border border-tick bg-field px-3"
            />
          </label>
        )}
      </div>
    </div>
  );
}

/** What stops all work: it has no tick, only changed facts end it. */
export function Stop({ step }: { step: Step }) {
  return (
    <div role="alert" className="border-4 border-fail p-3">
      <p className="m-0 flex items-center gap-2 font-bold text-fail text-head">
        <OctagonX size={26} aria-hidden="true" /> Stop
      </p>
      <p className="m-0 my-2">
        <Say it={step.stop ?? []} />
      </p>
      {step.key === "site.overhead" && <Overhead />}
    </div>
  );
}

/** The gate that holds a step, and the way there. */
export function Held({ by }: { by: string }) {
  const answers = useAnswers("steps");
  const jobId = useJobId();
  const found = Object.entries(answers.steps).find(([, rows]) => rows.some((s) => s.key === by));
  const step = found?.[1].find((s) => s.key === by);
  const there = STATIONS.find((s) => s.key === found?.[0]);
  if (!step || !there) return null;
  return (
    <div className="border-2 border-marginal p-3">
      <p className="m-0 font-bold">
        {step.stop?.length ? "Stopped: " : "First: "}
        <Say it={step.title} />
      </p>
      <button
        type="button"
        className="plain-button mt-2 min-h-11"
        onClick={() => go(`/jobs/${jobId}/${there.key}/do?step=${by}`)}
      >
        Go there, at {there.name}
      </button>
    </div>
  );
}
