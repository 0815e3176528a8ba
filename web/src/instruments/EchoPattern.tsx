import { scaleLinear } from "d3-scale";
import { figureOf } from "../units/units";

export type Echo = { name: string; delay_us: number; level_db: number; useful: number };

/** Arrivals of one multiplex over their delay, the guard interval as a bracket along the axis. */
export function EchoPattern({
  echoes,
  start,
  guard,
  width,
}: {
  echoes: Echo[];
  start: number;
  guard: number;
  width: number;
}) {
  const delays = echoes.map((e) => e.delay_us);
  const from = Math.min(start, ...delays);
  const to = Math.max(start + guard, ...delays);
  const room = Math.max(to - from, 1) * 0.08;
  const x = scaleLinear([from - room, to + room], [24, width - 24]);
  const top = Math.max(0, ...echoes.map((e) => e.level_db));
  const y = scaleLinear([top - 40, top], [118, 26]);
  const bottom = 118;
  return (
    <svg
      width={width}
      height="172"
      className="block"
      role="img"
      aria-label={echoes
        .map(
          (e) =>
            `${e.name} ${figureOf(e.delay_us, 0)} microseconds, ${figureOf(e.level_db, 0)} decibels`,
        )
        .join("; ")}
    >
      <line x1="24" x2={width - 24} y1={bottom} y2={bottom} stroke="var(--color-rail)" />
      <path
        d={`M${x(start) + 5} ${bottom - 8}H${x(start)}V${bottom + 8}H${x(start) + 5}M${x(start + guard) - 5} ${bottom - 8}H${x(start + guard)}V${bottom + 8}H${x(start + guard) - 5}`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      {echoes.map((e, i) => {
        const at = x(e.delay_us);
        const head = y(Math.max(e.level_db, top - 39));
        const right = at > width - 110;
        const good = e.useful > 0.999;
        const colour = good
          ? "var(--color-ok)"
          : e.useful > 0
            ? "var(--color-marginal)"
            : "var(--color-fail)";
        return (
          <g key={`${e.name}${i}`}>
            <line
              x1={at}
              x2={at}
              y1={head}
              y2={bottom}
              stroke={colour}
              strokeWidth="3"
              strokeDasharray={good ? undefined : "4 3"}
            />
            <text
              x={right ? at - 6 : at + 6}
              y={18 + (i % 2) * 15}
              textAnchor={right ? "end" : "start"}
              fontSize="13"
              fontWeight="600"
            >
              {e.name}
            </text>
          </g>
        );
      })}
      {x.ticks(Math.max(Math.floor(width / 90), 2)).map((t) => (
        <text key={t} x={x(t)} y="144" textAnchor="middle" fontSize="12" className="mono">
          {figureOf(t, 0)}
        </text>
      ))}
      <text x={width - 24} y="164" textAnchor="end" fontSize="12">
        µs after this transmitter
      </text>
    </svg>
  );
}
