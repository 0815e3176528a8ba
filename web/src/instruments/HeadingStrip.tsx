import { scaleLinear } from "d3-scale";
import { curveStepAfter, line } from "d3-shape";
import { figureOf } from "../units/units";
import type { ArrayDetail } from "../wire/types";
import { COLOUR } from "./StateMark";

const LEFT = 44;
const RIGHT = 18;
const WINDS: Record<number, string> = { 0: "N", 90: "E", 180: "S", 270: "W" };

/**
 * What an antenna brings against where it looks: services over their margin as steps, the weakest of
 * them as a line below, the best stretch in brackets, transmitters as plumb lines. `shift` is what
 * is taken off for the compass.
 */
export function HeadingStrip({
  detail,
  width,
  shift,
  height = 262,
}: {
  detail: ArrayDetail;
  width: number;
  shift: number;
  height?: number;
}) {
  const { curve, best, now } = detail;
  const of = best?.of ?? 1;
  // The strip begins opposite the best heading, so that the best stretch is never cut.
  const start = Math.round(((best?.heading_deg ?? detail.heading_deg ?? 180) - 180 + 360) % 360);
  const place = (deg: number) => (((deg - start) % 360) + 360) % 360;
  const x = scaleLinear([0, 360], [LEFT, width - RIGHT]);
  const split = Math.round(height * 0.46);
  const up = scaleLinear([0, of], [split - 16, 26]);
  const base = height - 42;
  const down = scaleLinear([-10, 30], [base, split + 20]).clamp(true);
  const rows = curve.bearing_deg
    .map((b, i) => [place(b), curve.services[i]!, curve.least_db[i]!] as const)
    .sort((a, b) => a[0] - b[0]);
  const closed = [...rows, [360, rows[0]?.[1] ?? 0, rows[0]?.[2] ?? 0] as const];
  const steps = line<readonly [number, number, number]>(
    (r) => x(r[0]),
    (r) => up(r[1]),
  ).curve(curveStepAfter);
  const margins = line<readonly [number, number, number]>(
    (r) => x(r[0]),
    (r) => down(r[2]),
  );
  const whole = best != null && (best.to_deg - best.from_deg + 360) % 360 >= 358;
  return (
    <>
      <svg
        width={width}
        height={height - 16}
        className="block"
        role="img"
        aria-label={
          best
            ? `Best heading ${figureOf(best.heading_deg, 0)}° true: ${best.services} of ${best.of} services`
            : "No wanted service yet"
        }
      >
        <text x="0" y="13" fontSize="12" style={{ fill: "var(--color-muted)" }}>
          services over their margin
        </text>
        {[0, of].map((v) => (
          <g key={v}>
            <line x1={LEFT} x2={width - RIGHT} y1={up(v)} y2={up(v)} stroke="var(--color-line)" />
            <text x={LEFT - 6} y={up(v) + 4} textAnchor="end" fontSize="12" className="mono">
              {v}
            </text>
          </g>
        ))}
        <path
          d={`${steps(closed) ?? ""}L${x(360)} ${up(0)}L${x(0)} ${up(0)}Z`}
          fill="var(--color-halo)"
          stroke="var(--color-copper)"
          strokeWidth="2"
        />
        <text x="0" y={split + 10} fontSize="12" style={{ fill: "var(--color-muted)" }}>
          weakest of them, dB over its threshold
        </text>
        {[0, 10, 20].map((v) => (
          <g key={v}>
            <line
              x1={LEFT}
              x2={width - RIGHT}
              y1={down(v)}
              y2={down(v)}
              stroke="var(--color-line)"
            />
            <text x={LEFT - 6} y={down(v) + 4} textAnchor="end" fontSize="12" className="mono">
              {v}
            </text>
          </g>
        ))}
        <line
          x1={LEFT}
          x2={width - RIGHT}
          y1={down(detail.margin_db)}
          y2={down(detail.margin_db)}
          stroke="var(--color-ink)"
          strokeDasharray="2 3"
        />
        <path d={margins(closed) ?? ""} fill="none" stroke="var(--color-ink)" strokeWidth="1.4" />
        {detail.costs.map((t, i) => (
          <g key={t.target}>
            <line
              x1={x(place(t.bearing_deg))}
              x2={x(place(t.bearing_deg))}
              y1={26}
              y2={base}
              stroke="var(--color-ink)"
              strokeDasharray="4 3"
            />
            <text
              x={Math.min(x(place(t.bearing_deg)) + 5, width - 80)}
              y={38 + (i % 3) * 15}
              fontSize="13"
              fontWeight="700"
              paintOrder="stroke"
              stroke="var(--color-sheet)"
              strokeWidth="4"
            >
              {t.name}
            </text>
          </g>
        ))}
        <line x1={LEFT} x2={width - RIGHT} y1={base} y2={base} stroke="var(--color-rail)" />
        {best && !whole && (
          <Span x1={x(place(best.from_deg))} x2={x(place(best.to_deg))} y={base} />
        )}
        {best && (
          <g>
            <path
              d={`M${x(place(best.heading_deg))} ${base - 10}l6 -9h-12z`}
              fill="var(--color-copper)"
            />
            <line
              x1={x(place(best.heading_deg))}
              x2={x(place(best.heading_deg))}
              y1={up(best.services)}
              y2={base - 10}
              stroke="var(--color-copper)"
              strokeWidth="1.5"
            />
          </g>
        )}
        {detail.heading_deg != null && (
          <line
            x1={x(place(detail.heading_deg))}
            x2={x(place(detail.heading_deg))}
            y1={base - 9}
            y2={base + 9}
            stroke={COLOUR[detail.state]}
            strokeWidth="4"
          >
            <title>where it looks now, {now?.services ?? 0} services</title>
          </line>
        )}
        {Array.from({ length: 36 }, (_, i) => i * 10).map((shown) => {
          const deg = (shown + shift + 360) % 360;
          const px = x(place(deg));
          const big = shown % 30 === 0;
          return (
            <g key={shown}>
              <line x1={px} x2={px} y1={base} y2={base + (big ? 7 : 4)} stroke="var(--color-ink)" />
              {big && px > LEFT + 8 && px < width - RIGHT - 8 && (
                <text
                  x={px}
                  y={base + 22}
                  textAnchor="middle"
                  fontSize="12"
                  fontWeight={WINDS[shown] ? 700 : 400}
                  className={WINDS[shown] ? "" : "mono"}
                >
                  {WINDS[shown] ?? shown}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <p className="m-0 text-right text-fine text-muted">
        heading, {shift ? "°M" : "°T"}; dashes: the margin that is wanted; tick: as it looks now
      </p>
    </>
  );
}

function Span({ x1, x2, y }: { x1: number; x2: number; y: number }) {
  return (
    <path
      d={`M${x1 + 5} ${y - 9}H${x1}V${y + 9}H${x1 + 5}M${x2 - 5} ${y - 9}H${x2}V${y + 9}H${x2 - 5}`}
      fill="none"
      stroke="var(--color-ink)"
      strokeWidth="2"
    />
  );
}
