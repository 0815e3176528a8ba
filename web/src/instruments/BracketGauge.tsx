import type { Gauge } from "../wire/types";
import { COLOUR } from "./StateMark";

type Scale = (v: number) => number;

function scaleOf(gauges: Gauge[], width: number): Scale {
  const values = gauges
    .flatMap((g) => [g.value, g.low, g.high])
    .filter((v): v is number => v != null);
  const low = Math.min(
    ...gauges.map((g) => g.low).filter((v): v is number => v != null),
    ...values,
  );
  const high = Math.max(
    ...gauges.map((g) => g.high).filter((v): v is number => v != null),
    ...values,
  );
  const one = gauges.every((g) => g.low == null || g.high == null);
  const span = Math.max(high - low, Math.abs(high) * 0.05, 1e-6);
  const pad = one ? span * 0.6 : span * 0.25;
  return (v) => 3 + ((v - low + pad) / (span + 2 * pad)) * (width - 6);
}

function Bracket({ x, side, h, y }: { x: number; side: 1 | -1; h: number; y: number }) {
  const foot = Math.max(3, h / 4);
  return (
    <path
      d={`M${x + side * foot} ${y - h / 2}H${x}V${y + h / 2}H${x + side * foot}`}
      fill="none"
      stroke="var(--color-ink)"
      strokeWidth="1.5"
    />
  );
}

/**
 * A rail, brackets at the limits, a tick at the value. With two gauges, the first (lowest
 * frequency) rises above the rail and the second hangs below it.
 */
export function BracketGauge({
  gauge,
  second,
  other,
  width = 64,
  height = 16,
  label,
}: {
  gauge: Gauge;
  second?: Gauge;
  other?: number | null;
  width?: number;
  height?: number;
  label?: string;
}) {
  const all = second ? [gauge, second] : [gauge];
  const withOther = other != null ? [...all, { ...gauge, value: other }] : all;
  const x = scaleOf(withOther, width);
  const y = height / 2;
  const h = Math.min(height - 2, height > 20 ? height * 0.6 : 13);
  const t = height > 20 ? height * 0.42 : 6.5;
  const thick = height > 24 ? 6 : height > 17 ? 4 : 2.8;
  return (
    <svg
      width={width}
      height={height}
      className="shrink-0"
      role={label ? "img" : undefined}
      aria-label={label}
      aria-hidden={label ? undefined : true}
    >
      <line x1="0" x2={width} y1={y} y2={y} stroke="var(--color-rail)" />
      {gauge.low != null && <Bracket x={x(gauge.low)} side={1} h={h} y={y} />}
      {gauge.high != null && <Bracket x={x(gauge.high)} side={-1} h={h} y={y} />}
      {other != null && (
        <line x1={x(other)} x2={x(other)} y1={y - t} y2={y + t} stroke="var(--color-muted)" />
      )}
      {gauge.value != null && (
        <line
          x1={x(gauge.value)}
          x2={x(gauge.value)}
          y1={y - t - 0.5}
          y2={second ? y : y + t + 0.5}
          stroke={COLOUR[gauge.state]}
          strokeWidth={thick}
        />
      )}
      {second?.value != null && (
        <line
          x1={x(second.value)}
          x2={x(second.value)}
          y1={y}
          y2={y + t + 0.5}
          stroke={COLOUR[second.state]}
          strokeWidth={thick}
        />
      )}
    </svg>
  );
}
