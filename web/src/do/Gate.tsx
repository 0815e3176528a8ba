import { OctagonX, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Choice, NumberField, TextField, Tick } from "../parts/Value";
import type { Refusal, Step } from "../service/client";
import { useJob } from "../service/job";
import type { RowOf } from "../service/rows";
import { STATIONS } from "../shell/stations";
import { useWrites } from "../stations/edits";
import { Say } from "../units/showing";
import type { Put } from "./DoFace";

const WHO = "evtro.who";

function known(): string {
  try {
    return localStorage.getItem(WHO) ?? "";
  } catch {
    return "";
  }
}

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
  const [who, setWho] = useState(known);
  const confirm = (danger_read: boolean) => {
    try {
      localStorage.setItem(WHO, who);
    } catch {
      // typed again next time then
    }
    return put({ danger_read, by: who });
  };
  return (
    <div className="border-2 border-brick p-3">
      <p className="m-0 flex items-center gap-2 font-bold text-brick">
        <TriangleAlert size={22} aria-hidden="true" /> Danger: {step.danger}
      </p>
      <p className="m-0 my-2">{step.danger_text}</p>
      {step.key === "site.overhead" && <Overhead />}
      <div className="border-line border-t pt-2">
        <Tick label={step.gate ?? ""} large on={mark?.danger_read ?? false} onChange={confirm} />
        {mark?.danger_read ? (
          <p className="m-0 text-body text-quiet">
            {mark.confirmed_by || "confirmed"}
            {mark.confirmed_at ? `, ${mark.confirmed_at.slice(0, 16).replace("T", " ")}` : ""}
          </p>
        ) : (
          <label className="flex items-center gap-3 text-body">
            <span className="whitespace-nowrap text-quiet">Who looked</span>
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

/** What was seen of overhead lines, where it is seen. */
function Overhead() {
  const { view } = useJob();
  const { earth: write } = useWrites();
  const e = view.job.earth!;
  const near = e.overhead_lines === "near";
  return (
    <div className="grid gap-1 pb-2">
      <Choice
        label="Overhead lines"
        value={e.overhead_lines ?? "unknown"}
        options={OVERHEAD}
        onChange={(overhead_lines) => write({ overhead_lines })}
        width={230}
      />
      {near && (
        <span className="flex flex-wrap items-baseline gap-x-4">
          <span>
            away{" "}
            <NumberField
              label="Overhead line away"
              value={e.line_distance_m}
              unit="m"
              commit={(t) => write({ line_distance_m: t })}
            />
          </span>
          <span>
            carries{" "}
            <NumberField
              label="Its voltage"
              value={e.line_kv}
              unit="kv"
              commit={(t) => write({ line_kv: t })}
              placeholder="ask"
            />
          </span>
        </span>
      )}
      {e.overhead_lines === "dead" && <LineDead />}
    </div>
  );
}

/** Who made a line dead, and who of us was told. */
export function LineDead() {
  const { view } = useJob();
  const { earth: write } = useWrites();
  const e = view.job.earth!;
  return (
    <span className="grid gap-1">
      <span>
        made dead by{" "}
        <TextField
          label="Who made it dead"
          value={e.line_operator ?? ""}
          commit={(line_operator) => write({ line_operator })}
          placeholder="its operator"
        />
      </span>
      <span>
        confirmed to{" "}
        <TextField
          label="Who confirmed that it is dead"
          value={e.line_dead_confirmed ?? ""}
          commit={(line_dead_confirmed) => write({ line_dead_confirmed })}
          placeholder="name of who was told"
        />
      </span>
    </span>
  );
}

export const OVERHEAD = [
  ["unknown", "not looked yet"],
  ["none", "none near"],
  ["near", "there is one"],
  ["dead", "made dead by its operator"],
] as const;

/** What stops all work: it has no tick, only changed facts end it. */
export function Stop({ step }: { step: Step }) {
  return (
    <div role="alert" className="border-4 border-brick p-3">
      <p className="m-0 flex items-center gap-2 font-bold text-brick text-head">
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
  const { view } = useJob();
  const go = useNavigate();
  const found = Object.entries(view.answers.steps).find(([, rows]) =>
    rows.some((s) => s.key === by),
  );
  const step = found?.[1].find((s) => s.key === by);
  const there = STATIONS.find((s) => s.key === found?.[0]);
  if (!step || !there) return null;
  return (
    <div className="border-2 border-ochre p-3">
      <p className="m-0 font-bold">
        {step.stop?.length ? "Stopped: " : "First: "}
        <Say it={step.title} />
      </p>
      <button
        type="button"
        className="plain-button mt-2 min-h-11"
        onClick={() => go(`/jobs/${view.id}/${there.key}/do?step=${by}`)}
      >
        Go there, at {there.name}
      </button>
    </div>
  );
}
