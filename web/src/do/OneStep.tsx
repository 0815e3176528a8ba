import { ArrowRight } from "lucide-react";
import { BigFigure } from "../instruments/Figure";
import { JobRegion } from "../parts/JobRegion";
import type { Refusal, Step } from "../service/client";
import { useAnswers, useJob, useJobId } from "../service/job";
import { useOutbox } from "../service/outbox";
import { Say } from "../units/showing";
import { BehindIt } from "./BehindIt";
import { Evidence } from "./Evidence";
import { Forecast } from "./Forecast";
import { Gate, Held, Stop } from "./Gate";
import { Leave } from "./Leave";
import { Meanwhile } from "./Meanwhile";
import { Measure } from "./Measure";
import { heldBy, type TaskRecord, thingsOf } from "./NotSent";
import { PeakPad, SpotPad } from "./pads";
import type { Put } from "./put";
import { Takes } from "./Takes";
import { Things } from "./Things";
import { Together } from "./Together";

type StepProps = {
  step: Step;
  count: number;
  index: number;
  put: (body: Put) => Promise<Refusal | null>;
  marks: Map<string, TaskRecord>;
  onBack: () => void;
  onDone: (left?: string) => Promise<Refusal | null>;
  next?: Step;
  following?: string;
};

/** One step: danger first, then what to do, what it reads, what shows that it is done. */
export function OneStep({
  step,
  count,
  index,
  put,
  marks: known,
  onBack,
  onDone,
  next,
  following,
}: StepProps) {
  const answers = useAnswers("steps");
  const jobId = useJobId();
  const mark = known.get(step.key);
  const keys = Object.values(answers.steps).flat();
  const here = keys.findIndex((s) => s.key === step.key) - index;
  const stopped = Boolean(step.stop?.length);
  const waiting = useOutbox(jobId);
  const held = heldBy(keys, step, known, waiting);
  const things = thingsOf(step, waiting);
  const lacking = things.some((t) => !t.state || !t.good.includes(t.state));
  const unread = Boolean(step.danger) && !mark?.danger_read;
  const out = step.measure?.state === "fail" && mark?.value != null && !step.finds;
  const first = step.needs?.find(
    (k) => keys.some((s) => s.key === k) && !known.get(k)?.at && k !== held,
  );
  const shut = stopped || Boolean(held) || unread || Boolean(first);
  const why = stopped
    ? "Nothing goes on before this has changed."
    : held
      ? "What comes before it is not confirmed."
      : first
        ? "What comes before it is not done."
        : unread
          ? "Read the danger and tick it first."
          : lacking && !mark?.left_why
            ? "Say of each how it is; one that is not as it should be is put right, or the step left."
            : out && !mark?.left_why
              ? "Shut until it reads right."
              : "";
  return (
    <section
      aria-label={`Step ${index + 1} of ${count}`}
      className="flex min-h-[calc(100vh-90px)] flex-col gap-4 text-lead leading-6 md:min-h-[640px]"
    >
      <div>
        <div className="flex items-baseline justify-between gap-3">
          <b className="whitespace-nowrap">
            Step {index + 1} of {count}
          </b>
          <Takes key={step.key} step={step} put={put} />
        </div>
        <Progress
          done={keys.slice(here, here + count).map((s) => Boolean(known.get(s.key)?.at))}
          at={index}
        />
      </div>
      {stopped && <Stop step={step} />}
      {held && <Held by={held} />}
      {!held && first && <Held by={first} />}
      {step.danger && !stopped && <Gate step={step} mark={mark} put={put} />}
      <div>
        <h2 className="m-0 font-bold text-head leading-6">
          <Say it={step.title} />
        </h2>
        {step.figure && (
          <div className="my-1 max-w-full overflow-hidden">
            <BigFigure
              value={step.figure.value}
              unit={step.figure.unit}
              digits={step.figure.digits}
              size={step.figure.unit === "dbuv" ? 64 : 80}
            />
          </div>
        )}
        {step.hint && step.hint.length > 0 && (
          <p className="m-0 mt-1">
            <Say it={step.hint} />
          </p>
        )}
      </div>
      {step.key === "sky.weather" && (
        <JobRegion name="Forecast">
          <Forecast />
        </JobRegion>
      )}
      <JobRegion name="Drawing and readings">
        <Pads step={step} mark={mark} put={put} />
      </JobRegion>
      {things.length > 0 && <Things key={step.key} things={things} put={put} />}
      {out && (
        <div role="status" className="border-2 border-fail px-3 py-2">
          <b className="text-fail">Out of what the step asks for.</b>{" "}
          {step.mend?.length ? <Say it={step.mend} /> : "Put it right and read again."}
        </div>
      )}
      <div className="mt-auto">
        <JobRegion name="Photos and notes">
          <Evidence key={step.key} step={step.key} note={mark?.note ?? ""} put={put} />
        </JobRegion>
      </div>
      <JobRegion name="Tasks while waiting">
        <Meanwhile step={step} marks={known} />
      </JobRegion>
      <div>
        <div className="flex gap-2.5">
          <button
            type="button"
            onClick={onBack}
            disabled={index === 0}
            className="h-[72px] w-[88px] rounded-sm border-2 border-ink font-bold"
          >
            Back
          </button>
          <button
            type="button"
            disabled={shut || ((out || lacking) && !mark?.left_why)}
            onClick={() => void onDone(mark?.left_why || undefined)}
            aria-describedby={why ? "gate-why" : undefined}
            className="copper-button flex h-[72px] min-w-0 flex-1 items-center justify-center gap-2 px-2 leading-5"
          >
            <Onward done={Boolean(mark?.at)} next={next} following={following} />
            <ArrowRight size={22} aria-hidden="true" className="shrink-0" />
          </button>
        </div>
        <p id="gate-why" className="m-0 mt-1 text-body text-muted">
          {why}
        </p>
        {!shut && <Leave why={mark?.left_why ?? ""} leave={onDone} />}
      </div>
    </section>
  );
}

/** One mark per step: done in ink, the present one in copper. */
function Progress({ done, at }: { done: boolean[]; at: number }) {
  return (
    <span aria-hidden="true" className="mt-1.5 flex gap-1">
      {done.map((is, n) => (
        <span
          key={n}
          className={`h-1 flex-1 ${n === at ? "bg-copper" : is ? "bg-ink" : "bg-line"}`}
        />
      ))}
    </span>
  );
}

/** Where the way goes on, in the words of the next step. */
function Onward({ done, next, following }: { done: boolean; next?: Step; following?: string }) {
  return (
    <span className="line-clamp-2 text-left text-body">
      <span className="block text-lead">{done ? "Done, next" : "Done"}</span>
      {next ? <Say it={next.title} /> : following ? `now ${following}` : "the last one"}
    </span>
  );
}

/** What a step is worked with: the peaking pad, the spots, or the field of its tool. */
function Pads({ step, mark, put }: { step: Step; mark?: TaskRecord; put: StepProps["put"] }) {
  const job = useJob("dishes");
  const found = /^aim\.(a\d+)\.(peak|lock)$/.exec(step.key);
  const dish = found && (job.dishes ?? []).some((d) => d.id === found[1]);
  const spots = /^aim\.(a\d+)\.spots$/.exec(step.key);
  if (spots) return <SpotPad antenna={spots[1]!} />;
  const together = /^aim\.(a\d+)\.(peak|sweep|null|lock)$/.exec(step.key);
  return (
    <>
      <BehindIt step={step} />
      {together && !dish && <Together antenna={together[1]!} scale="db" />}
      {dish && <PeakPad antenna={found[1]!} locking={found[2] === "lock"} />}
      {step.measure && <Measure key={step.key} step={step} value={mark?.value ?? null} put={put} />}
    </>
  );
}
