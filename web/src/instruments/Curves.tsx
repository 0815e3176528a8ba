import type { SheetCurve } from "../wire/types";

type Points = readonly (readonly [number, number])[];
const LOW = 5;
const HIGH = 2150;
/** Loss in copper goes with the root of the frequency: over it a cable is nearly a straight line. */
const root = (mhz: number, width: number, left = 0) =>
  left + ((Math.sqrt(mhz) - Math.sqrt(LOW)) / (Math.sqrt(HIGH) - Math.sqrt(LOW))) * width;

function path(points: Points, x: (f: number) => number, y: (v: number) => number) {
  return points
    .map(([f, v], i) => `${i ? "L" : "M"}${x(f).toFixed(1)} ${y(v).toFixed(1)}`)
    .join("");
}

/** A curve as small as a word: what it loses or gains over 5 to 2150 MHz, from 0 to 20 dB. */
export function CurveWord({ curves, width = 130 }: { curves: Points[]; width?: number }) {
  const y = (db: number) => 20 - Math.min(Math.abs(db), 20) * 0.85;
  return (
    <svg width={width} height={24} aria-hidden="true">
      <line x1="0" x2={width} y1="21.5" y2="21.5" stroke="var(--color-tick)" />
      {curves.map((points, i) => (
        <path
          key={i}
          d={path(points, (f) => root(Math.min(Math.max(f, LOW), HIGH), width), y)}
          fill="none"
          stroke="var(--color-copper)"
          strokeWidth="1.6"
        />
      ))}
    </svg>
  );
}

const MARKS = [5, 50, 200, 500, 950, 1500, 2150];

/** All curves of a sheet over the root of the frequency; dashed what it was made from, its points open. */
export function Curves({ curves }: { curves: SheetCurve[] }) {
  const all = curves.flatMap((c) => [...c.points, ...c.base].map((p) => p[1]!));
  if (!all.length) return null;
  const top = Math.ceil((Math.max(...all, 0) + 0.5) / 5) * 5;
  const foot = Math.floor((Math.min(...all, 0) - 0.5) / 5) * 5;
  const y = (db: number) => 10 + ((top - db) / (top - foot)) * 170;
  const x = (f: number) => root(Math.min(Math.max(f, LOW), HIGH), 312, 42);
  const step = Math.max(5, Math.ceil((top - foot) / 25) * 5);
  const rules = Array.from(
    { length: Math.floor((top - foot) / step) + 1 },
    (_, i) => top - i * step,
  );
  return (
    <svg viewBox="0 0 376 214" className="w-full" role="img" aria-label="Curves over frequency">
      {rules.map((db) => (
        <g key={db}>
          <line x1="42" x2="368" y1={y(db)} y2={y(db)} stroke="var(--color-line)" />
          <text x="36" y={y(db) + 4} textAnchor="end" fontSize="12" className="mono">
            {db > 0 ? `+${db}` : String(Math.abs(db))}
          </text>
        </g>
      ))}
      {MARKS.map((f) => (
        <text key={f} x={x(f)} y="196" textAnchor="middle" fontSize="12" className="mono">
          {f}
        </text>
      ))}
      <text x="368" y="211" textAnchor="end" fontSize="12" fill="var(--color-muted)">
        MHz; dB of loss{top > 0 ? ", gain with +" : ""}
      </text>
      {curves.map((c) => {
        const points = c.points as unknown as Points;
        const last = points[points.length - 1];
        return (
          <g key={c.field}>
            <path
              d={path(c.base as unknown as Points, x, y)}
              fill="none"
              stroke="var(--color-tick)"
              strokeDasharray="3 3"
            />
            <path d={path(points, x, y)} fill="none" stroke="var(--color-copper)" strokeWidth="2" />
            {points.map(([f, v]) => (
              <circle
                key={f}
                cx={x(f)}
                cy={y(v)}
                r="4"
                fill="var(--color-paper)"
                stroke="var(--color-copper)"
                strokeWidth="1.6"
              />
            ))}
            {c.title && last && (
              <text
                x={Math.min(x(last[0]), 368)}
                y={y(Math.max(last[1], points[points.length - 2]?.[1] ?? last[1])) - 11}
                textAnchor="end"
                fontSize="12"
                fontWeight="600"
                fill="var(--color-ink)"
                stroke="var(--color-paper)"
                strokeWidth="4"
                paintOrder="stroke"
              >
                {c.title}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
