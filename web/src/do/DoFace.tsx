import { TriangleAlert } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { useSearchParams } from "wouter";
import { go } from "../parts/go";
import { JobRegion } from "../parts/JobRegion";
import { STATIONS, type StationKey } from "../parts/stations";
import { Why } from "../parts/Value";
import type { Refusal, Step } from "../service/client";
import { useAnswers, useJob, useJobId, useWrites } from "../service/job";
import { useOutbox } from "../service/outbox";
import { Say } from "../units/showing";
import { Alone } from "./Alone";
import { useAwake } from "./awake";
import { KeptElsewhere, NotSent, type TaskRecord, withWaiting } from "./NotSent";
import { OneStep } from "./OneStep";
import { PeakPad, SpotPad } from "./pads";
import { type Put, whoIsHere } from "./put";

// Loaded ahead of the steps that need them: on the roof the network may fail before that.
const PADS_MS = 1500;

/** The steps of a station, one at a time, danger first. Each station begins at its own first open step. */
export default function DoFace({ station }: { station: StationKey }) {
  useAwake(true);
  useEffect(() => {
    const later = window.setTimeout(
      () => void Promise.all([PeakPad.load(), SpotPad.load()]).catch(() => {}),
      PADS_MS,
    );
    return () => window.clearTimeout(later);
  }, []);
  return <StationSteps key={station} station={station} />;
}

function StationSteps({ station }: { station: StationKey }) {
  const { tick } = useWrites();
  const { marks: known } = useJob("marks");
  const answers = useAnswers("steps");
  const jobId = useJobId();
  const waiting = useOutbox(jobId);
  const steps = answers.steps[station] ?? [];
  const marks = useMemo(() => withWaiting(known ?? [], waiting), [known, waiting]);
  const [params] = useSearchParams();
  const asked = steps.findIndex((s) => s.key === params.get("step"));
  const firstOpen = asked >= 0 ? asked : steps.findIndex((s) => !marks.get(s.key)?.at);
  const [at, setAt] = useState<number | null>(null);
  const i = Math.min(at ?? (firstOpen < 0 ? steps.length - 1 : firstOpen), steps.length - 1);
  const step = steps[i];
  const [refused, refuse] = useState<Refusal | null>(null);
  if (!step)
    return <p className="px-4 py-4 text-lead">Nothing to do here yet: plan the station first.</p>;
  const put = (body: Put) => tick({ verb: "tick", step: step.key, waited_s: 0, seen: {}, ...body });
  // The steps come in the order of the work, which is not that of the signal.
  const order = Object.keys(answers.steps) as StationKey[];
  const later = order.slice(order.indexOf(station) + 1).find((k) => answers.steps[k]?.length);
  const following = STATIONS.find((s) => s.key === later);
  const done = async (left?: string) => {
    const said = await put({ done: true, by: whoIsHere(), ...(left ? { left } : {}) });
    if (said) {
      refuse(said);
      return said;
    }
    refuse(null);
    if (i < steps.length - 1) setAt(i + 1);
    else if (following) go(`/jobs/${jobId}/${following.key}/do`);
    return null;
  };
  return (
    <div className="mx-auto grid max-w-[980px] grid-cols-[minmax(0,520px)_1fr] gap-10 px-6 py-4 max-md:grid-cols-1 max-md:px-4">
      <div>
        <Why refused={refused} />
        <JobRegion name="Waiting to be sent">
          <NotSent job={jobId} />
          <KeptElsewhere job={jobId} steps={Object.values(answers.steps).flat()} />
        </JobRegion>
        <JobRegion name="Working alone">
          <Alone step={step} />
        </JobRegion>
        <JobRegion
          key={step.key}
          name="This step"
          instead={<StepList steps={steps} at={i} marks={marks} open={setAt} />}
        >
          <OneStep
            step={step}
            count={steps.length}
            index={i}
            put={put}
            marks={marks}
            onBack={() => setAt(Math.max(0, i - 1))}
            onDone={done}
            next={steps[i + 1]}
            following={following?.name}
          />
        </JobRegion>
      </div>
      <div className="max-md:hidden">
        <JobRegion name="List of steps">
          <StepList steps={steps} at={i} marks={marks} open={setAt} />
        </JobRegion>
      </div>
    </div>
  );
}

function StepList({
  steps,
  at,
  marks,
  open,
}: {
  steps: readonly Step[];
  at: number;
  marks: Map<string, TaskRecord>;
  open: (index: number) => void;
}) {
  return (
    <ol className="m-0 list-none p-0 text-dense">
      {steps.map((s, n) => {
        const mark = marks.get(s.key);
        return (
          <li key={s.key} className="border-line border-b">
            <button
              type="button"
              aria-current={n === at ? "step" : undefined}
              onClick={() => open(n)}
              className={`flex w-full items-baseline gap-2 py-2 text-left max-md:min-h-11 ${n === at ? "font-bold" : ""}`}
            >
              <span className="num w-5 text-right text-muted">{n + 1}</span>
              <span className="flex-1">
                <Say it={s.title} />
              </span>
              {s.danger && (
                <TriangleAlert size={14} aria-label="danger first" className="text-fail" />
              )}
              <span className="num text-muted">{mark?.at ? mark.at.slice(11, 16) : ""}</span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}
