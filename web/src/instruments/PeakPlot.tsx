import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { figureOf } from "../units/units";
import type { PeakView } from "../wire/types";
import { COLOUR } from "./StateMark";
import { POSITION_UNIT, SCALE_UNIT } from "./scales";

const PLUS: Record<string, string> = { azimuth: "right", elevation: "up" };

/** Readings against position with the fit, the top, where the dish stands and the way back. */
export function PeakPlot({
  view,
  width,
  height = 250,
}: {
  view: PeakView;
  width: number;
  height?: number;
}) {
  const { peak, samples } = view;
  const xs = samples.map((s) => s.position);
  const ys = [...samples.map((s) => s.reading), ...peak.curve.map((c) => c[1]!)];
  const more = [peak.centre, peak.next_position].filter((v): v is number => v != null);
  const span = Math.max(Math.max(...xs, ...more) - Math.min(...xs, ...more), 0.5);
  const x = scaleLinear(
    [Math.min(...xs, ...more) - span * 0.12, Math.max(...xs, ...more) + span * 0.12],
    [34, width - 14],
  );
  const rise = Math.max(Math.max(...ys) - Math.min(...ys), 1);
  const bottom = height - 56;
  const y = scaleLinear(
    [Math.min(...ys) - rise * 0.12, Math.max(...ys) + rise * 0.2],
    [bottom, 22],
  );
  const curve = line<number[]>(
    (c) => x(c[0]!),
    (c) => y(c[1]!),
  );
  const axis = height - 40;
  const here = xs[xs.length - 1]!;
  const low =
    peak.centre != null && peak.uncertainty != null ? peak.centre - tolerance(view) : null;
  const high =
    peak.centre != null && peak.uncertainty != null ? peak.centre + tolerance(view) : null;
  const unit = SCALE_UNIT[view.scale] ?? "";
  return (
    <svg
      width={width}
      height={height}
      className="block"
      role="img"
      aria-label={`${view.axis}: ${samples.length} readings${view.words ? `, ${view.words}` : ""}`}
    >
      {y.ticks(5).map((t) => (
        <g key={t}>
          <line x1="34" x2={width - 14} y1={y(t)} y2={y(t)} stroke="var(--color-line)" />
          <text x="28" y={y(t) + 4} textAnchor="end" fontSize="12" className="mono">
            {t}
          </text>
        </g>
      ))}
      {peak.curve.length > 1 && (
        <path
          d={curve(peak.curve as number[][]) ?? ""}
          fill="none"
          stroke="var(--color-copper)"
          strokeWidth="2.5"
          strokeDasharray={peak.method === "edges" ? "3 4" : undefined}
        />
      )}
      {peak.centre != null && (
        <g>
          <line
            x1={x(peak.centre)}
            x2={x(peak.centre)}
            y1={peak.top != null ? y(peak.top) : 26}
            y2={axis}
            stroke="var(--color-copper)"
            strokeDasharray="4 3"
            strokeWidth="1.5"
          />
          <text
            x={Math.min(Math.max(x(peak.centre), 120), width - 130)}
            y="14"
            textAnchor="middle"
            fontSize="13"
          >
            <tspan fontWeight="700">
              {peak.top != null ? `top ${figureOf(peak.top, 1)} ${unit}` : "middle of the edges"}
            </tspan>{" "}
            at {figureOf(peak.centre, 2)}, ±{figureOf(peak.uncertainty ?? 0, 2)}
          </text>
        </g>
      )}
      {samples.map((s, i) => {
        const now = i === samples.length - 1;
        return (
          <circle
            key={s.id}
            cx={x(s.position)}
            cy={y(s.reading)}
            r={now ? 5.5 : 4.5}
            fill={now ? COLOUR[peak.state] : "var(--color-sheet)"}
            stroke={now ? COLOUR[peak.state] : "var(--color-ink)"}
            strokeWidth="1.8"
          />
        );
      })}
      {peak.centre != null && peak.state !== "ok" && Math.abs(x(here) - x(peak.centre)) > 26 && (
        <Back from={x(here)} to={x(peak.centre)} y={bottom - 8} />
      )}
      <line x1="34" x2={width - 14} y1={axis} y2={axis} stroke="var(--color-rail)" />
      {x.ticks(Math.max(Math.floor(width / 62), 3)).map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={axis} y2={axis + 5} stroke="var(--color-ink)" />
          <text x={x(t)} y={axis + 20} textAnchor="middle" fontSize="12" className="mono">
            {figureOf(t, Number.isInteger(t) ? 0 : 1)}
          </text>
        </g>
      ))}
      {low != null && high != null && (
        <path
          d={`M${x(low) + 5} ${axis - 9}H${x(low)}V${axis + 9}H${x(low) + 5}M${x(high) - 5} ${axis - 9}H${x(high)}V${axis + 9}H${x(high) - 5}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="2"
        />
      )}
      <line
        x1={x(here)}
        x2={x(here)}
        y1={axis - 9}
        y2={axis + 9}
        stroke={COLOUR[peak.state]}
        strokeWidth="4"
      />
      <text
        x={width - 14}
        y={height - 4}
        textAnchor="end"
        fontSize="12"
        style={{ fill: "var(--color-muted)" }}
      >
        {view.unit === "deg"
          ? `degrees, ${PLUS[view.axis] ?? "clockwise"} is plus`
          : `${POSITION_UNIT[view.unit]}, clockwise is plus`}
      </text>
      <text x="2" y="12" fontSize="12" style={{ fill: "var(--color-muted)" }}>
        {unit}
      </text>
    </svg>
  );
}

/** As near as the readings tell, and no nearer than a twelfth of the beam. */
function tolerance(view: PeakView): number {
  return Math.max(view.peak.uncertainty ?? 0, (view.peak.half_width ?? 0) * 0.08);
}

function Back({ from, to, y }: { from: number; to: number; y: number }) {
  const left = to < from;
  return (
    <g>
      <line
        x1={from}
        x2={to + (left ? 8 : -8)}
        y1={y}
        y2={y}
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      <path
        d={left ? `M${to} ${y}l10 -4.5v9z` : `M${to} ${y}l-10 -4.5v9z`}
        fill="var(--color-ink)"
      />
    </g>
  );
}
