import type { SiteAnswer } from "../service/client";
import { useShown } from "../shell/showing";
import { textOf } from "../shell/units";
import { useWidth } from "./useWidth";

const H = 480;

/** The plan in metres round the mount, north up; rays to the targets cut at the frame. */
export function SitePlan({ answer }: { answer: SiteAnswer }) {
  const [ref, width] = useWidth<HTMLDivElement>(640);
  const at = useShown();
  const reach = Math.max(answer.reach_m * 1.15, 8);
  const scale = (Math.min(width, H) / 2 - 10) / reach;
  const x = (m: number) => width / 2 + m * scale;
  const y = (m: number) => H / 2 - m * scale;
  const bar = [1, 2, 5, 10, 20, 50, 100].find((n) => n * scale > 50) ?? 200;
  const outline = (points: number[][]) =>
    `${points.map((p, i) => `${i ? "L" : "M"}${x(p[0] ?? 0).toFixed(1)} ${y(p[1] ?? 0).toFixed(1)}`).join("")}Z`;
  return (
    <div ref={ref} className="overflow-hidden bg-sky">
      <svg
        width={width}
        height={H}
        role="img"
        aria-label="Plan round the mounting point, north up"
        className="block"
      >
        {answer.shapes.map((s) => {
          const middle = s.points_m.reduce(
            (a, p) => [a[0]! + p[0]! / s.points_m.length, a[1]! + p[1]! / s.points_m.length],
            [0, 0],
          );
          return (
            <g key={s.name + s.letter}>
              <path
                d={outline(s.points_m)}
                fill={s.kind === "building" ? "var(--color-sheet)" : "var(--color-ground)"}
                stroke="var(--color-ink)"
                strokeWidth={s.kind === "building" ? 2 : 1}
              />
              <text
                x={x(middle[0] ?? 0)}
                y={y(middle[1] ?? 0) + 4}
                textAnchor="middle"
                fontSize="12"
                fontWeight={s.letter ? 700 : 400}
              >
                {s.letter}
              </text>
            </g>
          );
        })}
        {answer.rays.map((r, i) => {
          const a = (r.azimuth_deg * Math.PI) / 180;
          const far = 1500;
          const edge =
            (i % 2 ? 0.74 : 1) *
            Math.min(
              Math.abs((width / 2 - 30) / (Math.sin(a) || 1e-6)),
              Math.abs((H / 2 - 20) / (Math.cos(a) || 1e-6)),
            );
          return (
            <g key={r.name}>
              <line
                x1={x(0)}
                y1={y(0)}
                x2={x(0) + Math.sin(a) * far}
                y2={y(0) - Math.cos(a) * far}
                stroke="var(--color-copper)"
                strokeWidth="1.8"
                strokeDasharray={r.kind === "transmitter" ? "7 4" : undefined}
              />
              <text
                x={x(0) + Math.sin(a) * edge}
                y={y(0) - Math.cos(a) * edge}
                textAnchor={Math.sin(a) > 0.3 ? "end" : Math.sin(a) < -0.3 ? "start" : "middle"}
                fontSize="13"
                fontWeight="600"
                paintOrder="stroke"
                stroke="var(--color-sky)"
                strokeWidth="4"
              >
                {r.name} <tspan className="mono">{r.azimuth_deg.toFixed(1)}°T</tspan>
              </text>
            </g>
          );
        })}
        <path
          d={`M${x(answer.entry_m[0] ?? 0) - 6} ${y(answer.entry_m[1] ?? 0)}h12m-6 -6v12`}
          stroke="var(--color-copper)"
          strokeWidth="3"
        />
        <text
          x={x(answer.entry_m[0] ?? 0) + 10}
          y={y(answer.entry_m[1] ?? 0) + 4}
          fontSize="12"
          paintOrder="stroke"
          stroke="var(--color-sheet)"
          strokeWidth="4"
        >
          cable entry
        </text>
        <circle
          cx={x(0)}
          cy={y(0)}
          r="6"
          fill="var(--color-sheet)"
          stroke="var(--color-copper)"
          strokeWidth="3"
        />
        <text
          x={x(0)}
          y={y(0) + 22}
          textAnchor="middle"
          fontSize="12"
          fontWeight="700"
          paintOrder="stroke"
          stroke="var(--color-sky)"
          strokeWidth="4"
        >
          mount
        </text>
        <g transform={`translate(${width - 34} 44)`}>
          <path d="M0 -24L7 8L0 3L-7 8Z" fill="var(--color-ink)" />
          <text y="24" textAnchor="middle" fontSize="13" fontWeight="700">
            N
          </text>
        </g>
        <path
          d={`M20 ${H - 22}v6h${bar * scale}v-6`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.5"
        />
        <text x={26 + bar * scale} y={H - 14} fontSize="12" className="mono">
          {textOf({ value: bar, unit: "m", digits: 0 }, at)}
        </text>
      </svg>
    </div>
  );
}
