import type { OutletEffect } from "../wire/types";
import { COLOUR } from "./StateMark";

const MOST_DB = 20;

/**
 * Every outlet as a tick by the room that its level has to the nearer limit: before above the rail,
 * thin; after below it, in the colour of its state. The bracket stands at the limit.
 */
export function Crowd({ marks, width = 168 }: { marks: OutletEffect[]; width?: number }) {
  const x = (db: number | null | undefined) =>
    db == null
      ? 3
      : 14 + ((Math.max(-MOST_DB, Math.min(MOST_DB, db)) + MOST_DB) / (2 * MOST_DB)) * (width - 20);
  const y = 17;
  const worse = marks.filter((m) => m.after === "fail").length;
  return (
    <svg
      width={width}
      height={34}
      role="img"
      aria-label={`${marks.length} outlets, ${marks.length - worse} not out after it`}
    >
      <line x1="0" x2={width} y1={y} y2={y} stroke="var(--color-rail)" />
      <path
        d={`M${x(0) + 4} ${y - 12}H${x(0)}V${y + 12}H${x(0) + 4}`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      {marks.map((m) => (
        <g key={m.outlet}>
          <line
            x1={x(m.before_db)}
            x2={x(m.before_db)}
            y1={y - 2}
            y2={y - 10}
            stroke={m.before === "fail" ? COLOUR.fail : "var(--color-muted)"}
            strokeWidth={m.before === "fail" ? 2.4 : 1}
          />
          <line
            x1={x(m.after_db)}
            x2={x(m.after_db)}
            y1={y + 2}
            y2={y + 12}
            stroke={COLOUR[m.after]}
            strokeWidth={m.after === "fail" ? 3 : 2}
          />
        </g>
      ))}
    </svg>
  );
}
