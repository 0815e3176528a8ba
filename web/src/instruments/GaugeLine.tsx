import { useShown } from "../units/showing";
import { shown } from "../units/units";
import type { Gauge } from "../wire/types";
import { BracketGauge } from "./BracketGauge";
import { StateWord } from "./StateMark";

/** A caption, its bracket gauge, figure and state in one line. */
export function GaugeLine({
  name,
  gauge,
  digits = 1,
  width = 120,
  note,
}: {
  name: string;
  gauge: Gauge;
  digits?: number;
  width?: number;
  note?: string;
}) {
  const at = useShown();
  const s = gauge.value == null ? null : shown(gauge.value, gauge.unit, digits, at);
  const limit = (v: number | null | undefined) =>
    v == null ? null : shown(v, gauge.unit, digits, at).figure;
  const limits = [limit(gauge.low), limit(gauge.high)];
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-line border-b py-1.5 text-dense">
      <span className="w-44">
        {name}
        {note && <span className="block text-muted">{note}</span>}
      </span>
      <BracketGauge gauge={gauge} width={width} />
      <span className="num w-24 text-right font-semibold">
        {s ? `${s.figure} ${s.unit}` : "not known"}
      </span>
      <StateWord state={gauge.state} />
      <span className="text-muted">
        {limits[0] && limits[1]
          ? `${limits[0]} to ${limits[1]}`
          : limits[0]
            ? `at least ${limits[0]}`
            : limits[1]
              ? `at most ${limits[1]}`
              : ""}
      </span>
    </div>
  );
}
