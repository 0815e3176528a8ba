import { useShown } from "../units/showing";
import { figureOf, textOf } from "../units/units";
import type { RowView } from "../wire/types";
import { COLOUR } from "./StateMark";

/** The row of feeds as seen from behind the dish, offsets to scale, tilted as it will stand. */
export function FeedBar({
  row,
  lnbWidth,
  width,
}: {
  row: RowView;
  lnbWidth: number;
  width: number;
}) {
  const at = useShown();
  const offsets = row.feeds.map((f) => f.line.offset_mm);
  const reach = Math.max(...offsets.map(Math.abs), 60) + lnbWidth;
  const px = Math.min((width - 40) / (2 * reach), 1.6);
  const height = Math.max(
    Math.abs(Math.sin((row.tilt_deg * Math.PI) / 180)) * 2 * reach * px + 150,
    190,
  );
  const c = { x: width / 2, y: height / 2 };
  const r = Math.max((lnbWidth / 2) * px, 7);
  return (
    <svg
      width={width}
      height={height}
      className="block"
      role="img"
      aria-label={`Feeds seen from behind, bar tilted ${figureOf(Math.abs(row.tilt_deg), 1)}° ${row.tilt_deg > 0 ? "clockwise" : "anticlockwise"}`}
    >
      <line
        x1="8"
        x2={width - 8}
        y1={c.y}
        y2={c.y}
        stroke="var(--color-ink)"
        strokeDasharray="2 4"
      />
      <text x={width - 8} y={c.y - 5} textAnchor="end" fontSize="12">
        level
      </text>
      <g transform={`rotate(${row.tilt_deg} ${c.x} ${c.y})`}>
        <rect
          x={c.x - reach * px}
          y={c.y - 5}
          width={2 * reach * px}
          height="10"
          fill="var(--color-ground)"
          stroke="var(--color-ink)"
        />
        {row.feeds.map((f, i) => {
          const x = c.x + f.line.offset_mm * px;
          const y = c.y - f.line.height_mm * px;
          const above = i % 2 === 0;
          return (
            <g key={f.line.target}>
              <circle
                cx={x}
                cy={y}
                r={r}
                fill="var(--color-sheet)"
                stroke={COLOUR[f.state as "ok"]}
                strokeWidth="2.5"
              />
              <g transform={`rotate(${f.lnb_turn_deg ?? 0} ${x} ${y})`}>
                <line
                  x1={x}
                  x2={x}
                  y1={y - r * 0.7}
                  y2={y + r * 0.1}
                  stroke="var(--color-copper)"
                  strokeWidth="3"
                />
                <line
                  x1={x - r * 0.1}
                  x2={x + r * 0.7}
                  y1={y}
                  y2={y}
                  stroke="var(--color-copper)"
                  strokeWidth="3"
                />
              </g>
              <g transform={`rotate(${-row.tilt_deg} ${x} ${y})`}>
                <text
                  x={x}
                  y={above ? y - r - 22 : y + r + 20}
                  textAnchor="middle"
                  fontSize="13"
                  fontWeight="700"
                >
                  {f.line.name}
                </text>
                <text
                  x={x}
                  y={above ? y - r - 7 : y + r + 35}
                  textAnchor="middle"
                  fontSize="12"
                  className="mono"
                >
                  {f.line.offset_mm > 0.5 ? "+" : ""}
                  {textOf({ value: f.line.offset_mm, unit: "mm", digits: 0 }, at)}
                </text>
              </g>
            </g>
          );
        })}
      </g>
      <text x="8" y={height - 8} fontSize="12" style={{ fill: "var(--color-muted)" }}>
        seen from behind the dish; right is plus
      </text>
    </svg>
  );
}
