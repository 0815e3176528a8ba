import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useShown } from "../units/showing";
import { shown } from "../units/units";
import type { NetworkCarrier } from "../wire/types";
import { COLOUR } from "./StateMark";

type Point = {
  channel: NetworkCarrier;
  level: number;
  state: "ok" | "marginal" | "fail" | "unknown";
};

/** Level over frequency; each band has its bracket lying over it. */
export function LevelPlot({ points, windows = true }: { points: Point[]; windows?: boolean }) {
  const at = useShown();
  if (!points.length) return null;
  const sorted = [...points].sort((a, b) => a.channel.frequency_mhz - b.channel.frequency_mhz);
  const levels = sorted.flatMap((p) => [
    p.level,
    ...(windows ? [p.channel.window.low_dbuv, p.channel.window.high_dbuv] : []),
  ]);
  const y = scaleLinear([Math.min(...levels) - 4, Math.max(...levels) + 4], [128, 8]);
  const f = sorted.map((p) => p.channel.frequency_mhz);
  const x = scaleLinear([Math.min(...f) - 40, Math.max(...f) + 40], [34, 258]);
  const groups = (["terrestrial", "satellite", "cable"] as const)
    .map((g) => sorted.filter((p) => p.channel.group === g))
    .filter((g) => g.length);
  // Neighbours of one window lie under one bracket.
  const spans = groups.flatMap((g) => {
    const found: Point[][] = [];
    for (const p of g) {
      const last = found.at(-1);
      const same = last?.[0]?.channel.window;
      if (
        last &&
        same?.low_dbuv === p.channel.window.low_dbuv &&
        same?.high_dbuv === p.channel.window.high_dbuv
      )
        last.push(p);
      else found.push([p]);
    }
    return found;
  });
  const path = line<Point>(
    (p) => x(p.channel.frequency_mhz),
    (p) => y(p.level),
  );
  const ticks = y.ticks(5);
  return (
    <svg viewBox="0 0 264 152" className="w-full" role="img" aria-label="Level over frequency">
      {ticks.map((t) => (
        <g key={t}>
          <line x1="32" x2="262" y1={y(t)} y2={y(t)} stroke="var(--color-line)" />
          <text x="27" y={y(t) + 4} textAnchor="end" fontSize="12" className="mono">
            {shown(t, "dbuv", 0, at).figure}
          </text>
        </g>
      ))}
      {windows &&
        spans.map((span) => {
          const [from, to] = [span[0]!.channel, span.at(-1)!.channel];
          const [x1, x2] = [x(from.frequency_mhz) - 5, x(to.frequency_mhz) + 5];
          return (
            <path
              key={from.id}
              d={`M${x1} ${y(from.window.low_dbuv) - 5}v5H${x2}v-5M${x1} ${y(from.window.high_dbuv) + 5}v-5H${x2}v5`}
              fill="none"
              stroke="var(--color-ink)"
              strokeWidth="1.5"
            />
          );
        })}
      {groups.map((g) => {
        const first = g[0]!.channel;
        const last = g[g.length - 1]!.channel;
        const [x1, x2] = [x(first.frequency_mhz) - 5, x(last.frequency_mhz) + 5];
        return (
          <g key={first.id}>
            <path d={path(g) ?? ""} fill="none" stroke="var(--color-copper)" strokeWidth="2" />
            {g.map((p) => (
              <circle
                key={p.channel.id}
                cx={x(p.channel.frequency_mhz)}
                cy={y(p.level)}
                r="3.6"
                fill="var(--color-sheet)"
                stroke={COLOUR[p.state]}
                strokeWidth="2"
              />
            ))}
            <text x={(x1 + x2) / 2} y="146" textAnchor="middle" fontSize="12" className="mono">
              {first.frequency_mhz.toFixed(0)}
              {first.id !== last.id ? ` to ${last.frequency_mhz.toFixed(0)}` : ""}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
