import { ArrowRight, Minus, Plus, TriangleAlert } from "lucide-react";
import { useEffect, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { BracketGauge } from "../instruments/BracketGauge";
import { BigFigure } from "../instruments/Figure";
import { StateWord } from "../instruments/StateMark";
import { useWidth } from "../instruments/useWidth";
import { Why } from "../parts/Value";
import type { Refusal, Step } from "../service/client";
import { useJob } from "../service/job";
import { useOutbox } from "../service/outbox";
import { STATIONS, type StationKey } from "../shell/stations";
import { plain, Say, useShown } from "../units/showing";
import { inUnit, shown } from "../units/units";
import { useAwake } from "./awake";
import { Gate, Held, Stop } from "./Gate";
import { heldBy, type Mark, NotSent, withWaiting } from "./NotSent";
import { PeakPad } from "./PeakPad";
import type { Put } from "./put";
import { SpotPad } from "./SpotPad";

/** The steps of a station, one at a time, danger first. */
export default function DoFace({ station }: { station: StationKey }) {
  const { view, tick } = useJob();
  const waiting = useOutbox(view.id);
  const steps = view.answers.steps[station] ?? [];
  const marks = withWaiting(view.job.marks ?? [], waiting);
  const [params] = useSearchParams();
  const asked = steps.findIndex((s) => s.key === params.get("step"));
  const firstOpen = asked >= 0 ? asked : steps.findIndex((s) => !marks.get(s.key)?.at);
  const [at, setAt] = useState<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another station starts at its own first open step
  useEffect(() => setAt(null), [station]);
  const i = Math.min(at ?? (firstOpen < 0 ? steps.length - 1 : firstOpen), steps.length - 1);
  const step = steps[i];
  const go = useNavigate();
  useAwake(true);
  if (!step)
    return <p className="px-4 py-4 text-lead">Nothing to do here yet: plan the station first.</p>;
  const put = (body: Put) => tick({ verb: "tick", step: step.key, ...body });
  // The steps come in the order of the work, which is not that of the signal.
  const order = Object.keys(view.answers.steps) as StationKey[];
  const later = order.slice(order.indexOf(station) + 1).find((k) => view.answers.steps[k]?.length);
  const following = STATIONS.find((s) => s.key === later);
  const done = async () => {
    const said = await put({ done: true });
    if (said) return;
    if (i < steps.length - 1) setAt(i + 1);
    else if (following) go(`/jobs/${view.id}/${following.key}/do`);
  };
  return (
    <div className="mx-auto grid max-w-[980px] grid-cols-[minmax(0,520px)_1fr] gap-10 px-6 py-4 max-md:grid-cols-1 max-md:px-4">
      <OneStep
        key={step.key}
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
      <ol className="m-0 list-none p-0 text-dense max-md:hidden">
        {steps.map((s, n) => {
          const mark = marks.get(s.key);
          return (
            <li key={s.key} className="border-line border-b">
              <button
                type="button"
                aria-current={n === i ? "step" : undefined}
                onClick={() => setAt(n)}
                className={`flex w-full items-baseline gap-2 py-2 text-left ${n === i ? "font-bold" : ""}`}
              >
                <span className="num w-5 text-right text-quiet">{n + 1}</span>
                <span className="flex-1">
                  <Say it={s.title} />
                </span>
                {s.danger && (
                  <TriangleAlert size={14} aria-label="danger first" className="text-brick" />
                )}
                <span className="num text-quiet">{mark?.at ? mark.at.slice(11, 16) : ""}</span>
              </button>
            </li>
          );
        })}
      </ol>
    </div>
  );
}

type StepProps = {
  step: Step;
  count: number;
  index: number;
  put: (body: Put) => Promise<Refusal | null>;
  marks: Map<string, Mark>;
  onBack: () => void;
  onDone: () => void;
  next?: Step;
  following?: string;
};

function OneStep({
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
  const { view } = useJob();
  const at = useShown();
  const mark = known.get(step.key);
  const marks = new Set([...known.values()].filter((m) => m.at).map((m) => m.step));
  const keys = Object.values(view.answers.steps).flat();
  const here = keys.findIndex((s) => s.key === step.key) - index;
  const found = /^aim\.(a\d+)\.(peak|lock)$/.exec(step.key);
  const dish = (view.job.dishes ?? []).some((d) => d.id === found?.[1]);
  const pad = dish ? found : null;
  const spots = /^aim\.(a\d+)\.spots$/.exec(step.key);
  const stopped = Boolean(step.stop?.length);
  const held = heldBy(keys, step, known, useOutbox(view.id));
  const shut = stopped || Boolean(held) || (Boolean(step.danger) && !mark?.danger_read);
  return (
    <section
      aria-label={`Step ${index + 1} of ${count}`}
      className="flex min-h-[calc(100vh-90px)] flex-col gap-4 text-lead leading-6 md:min-h-[640px]"
    >
      <div className="flex items-center gap-3">
        <b className="whitespace-nowrap">
          Step {index + 1} of {count}
        </b>
        <span aria-hidden="true" className="flex flex-1 gap-1">
          {Array.from({ length: count }, (_, n) => (
            <span
              key={n}
              className={`h-2.5 flex-1 border ${n === index ? "border-2 border-ink" : marks.has(keys[here + n]?.key ?? "") ? "border-ink bg-ink" : "border-transparent border-b-tick"}`}
            />
          ))}
        </span>
      </div>
      <NotSent job={view.id} />
      {stopped && <Stop step={step} />}
      {held && <Held by={held} />}
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
      {spots && <SpotPad antenna={spots[1]!} />}
      {pad && <PeakPad antenna={pad[1]!} locking={pad[2] === "lock"} />}
      {step.measure && !spots && (
        <Measure key={step.key} step={step} value={mark?.value ?? null} put={put} />
      )}
      <label className="mt-auto block">
        <span className="text-quiet">Note</span>
        <input
          defaultValue={mark?.note ?? ""}
          onBlur={(e) => e.target.value !== (mark?.note ?? "") && put({ note: e.target.value })}
          className="h-11 w-full rounded-sm border border-tick bg-field px-3"
        />
      </label>
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
          disabled={shut}
          onClick={onDone}
          aria-describedby={shut ? "gate-why" : undefined}
          className="copper-button flex h-[72px] min-w-0 flex-1 items-center justify-center gap-2 text-lead"
        >
          <span className="truncate">
            {mark?.at ? "Done, next" : "Done"}
            {next ? "" : following ? `, now ${following}` : ""}
          </span>{" "}
          <ArrowRight size={22} aria-hidden="true" />
        </button>
      </div>
      <p id="gate-why" className="m-0 truncate text-body text-quiet">
        {stopped
          ? "Nothing goes on before this has changed."
          : held
            ? "What comes before it is not confirmed."
            : shut
              ? "Read the danger and tick it first."
              : next
                ? `Next: ${plain(next.title, at)}`
                : ""}
      </p>
    </section>
  );
}

function Measure({
  step,
  value,
  put,
}: {
  step: Step;
  value: number | null;
  put: StepProps["put"];
}) {
  const at = useShown();
  const gauge = step.measure!;
  const [ref, width] = useWidth<HTMLDivElement>(320);
  // A tape is read to the centimetre, the other tools to a tenth.
  const digits = gauge.unit === "m" ? 2 : 1;
  const figure = value == null ? "" : shown(value, gauge.unit, digits, at).figure.replace("−", "-");
  const [typed, setTyped] = useState<string | null>(null);
  const [refused, refuse] = useState<Refusal | null>(null);
  const unit = shown(0, gauge.unit, 1, at).unit;
  const send = async (text: string) => {
    const said = await put({ value: inUnit(text, gauge.unit, at, unit) });
    refuse(said);
    // What was refused, or typed while the answer was on its way, stays.
    if (!said) setTyped((now) => (now === text ? null : now));
  };
  const middle =
    gauge.low != null && gauge.high != null ? (gauge.low + gauge.high) / 2 : (gauge.low ?? 0);
  const step_ = 10 ** -digits;
  const nudge = async (by: number) => {
    setTyped(null);
    refuse(await put({ value: ((value ?? middle) + by).toFixed(digits) }));
  };
  return (
    <div ref={ref}>
      <BracketGauge
        gauge={gauge}
        width={width}
        height={44}
        label={`wanted ${gauge.low?.toFixed(1) ?? ""} to ${gauge.high?.toFixed(1) ?? ""}`}
      />
      <div className="my-1 flex items-center justify-between">
        <b>It reads</b>
        {gauge.value != null && <StateWord state={gauge.state} />}
      </div>
      <div className="flex gap-2.5">
        <button
          type="button"
          aria-label="Less"
          onClick={() => nudge(-step_)}
          className="grid h-[72px] w-16 shrink-0 place-items-center rounded-sm border-2 border-ink"
        >
          <Minus aria-hidden="true" />
        </button>
        <label className="flex h-[72px] min-w-0 flex-1 items-center justify-center gap-2 rounded-sm border-2 border-ink bg-field">
          <span className="sr-only">It reads, {unit}</span>
          <input
            value={typed ?? figure}
            inputMode="decimal"
            onChange={(e) => setTyped(e.target.value)}
            onBlur={() => typed !== null && send(typed)}
            onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
            className="num w-24 bg-transparent text-right font-semibold text-large outline-none"
          />
          <span className="text-lead">{unit}</span>
        </label>
        <button
          type="button"
          aria-label="More"
          onClick={() => nudge(step_)}
          className="grid h-[72px] w-16 shrink-0 place-items-center rounded-sm border-2 border-ink"
        >
          <Plus aria-hidden="true" />
        </button>
      </div>
      <Why refused={refused} />
    </div>
  );
}
