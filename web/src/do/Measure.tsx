import { Minus, Plus } from "lucide-react";
import { useState } from "react";
import { BracketGauge } from "../instruments/BracketGauge";
import { StateWord } from "../instruments/StateMark";
import { useWidth } from "../instruments/useWidth";
import { Why } from "../parts/Value";
import type { Refusal, Step } from "../service/client";
import { useShown } from "../units/showing";
import { inUnit, shown } from "../units/units";
import type { Put } from "./put";

/** What the tool reads, typed or nudged, against what the step asks for. */
export function Measure({
  step,
  value,
  put,
}: {
  step: Step;
  value: number | null;
  put: (body: Put) => Promise<Refusal | null>;
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
