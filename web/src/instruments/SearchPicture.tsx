import type { SearchPlan } from "../service/client";
import { figureOf } from "../shell/units";

/** The passes on the sky, one beam wide, in their order; the wanted satellite and what is met. */
export function SearchPicture({
  plan,
  azimuth,
  elevation,
  beamwidth,
  name,
  others,
  width,
}: {
  plan: SearchPlan;
  azimuth: number;
  elevation: number;
  beamwidth: number;
  name: string;
  others: { name: string; azimuth: number; elevation: number }[];
  width: number;
}) {
  const rows = plan.passes;
  const reach = plan.half_width_deg + 3;
  const ys = rows.map((p) => p.elevation_deg);
  const low = Math.min(...ys) - beamwidth - 1;
  const high = Math.max(...ys) + beamwidth + 1;
  const px = Math.min((width - 60) / (2 * reach), 300 / (high - low), 40);
  const height = Math.max((high - low) * px + 34, 120);
  const off = (az: number) => ((((az - azimuth + 180) % 360) + 360) % 360) - 180;
  const x = (az: number) => width / 2 + off(az) * px;
  const y = (el: number) => (height - 28) / 2 - (el - (low + high) / 2) * px;
  const ticks = Array.from({ length: 21 }, (_, i) => Math.round(azimuth) - 10 + i).filter(
    (t) => Math.abs(t - azimuth) < reach,
  );
  return (
    <svg
      width={width}
      height={height}
      className="block bg-sky"
      role="img"
      aria-label={`${rows.length} passes, each ${figureOf(2 * plan.half_width_deg, 1)}° wide`}
    >
      {rows.map((p, i) => {
        const [x1, x2] = [x(p.from_deg), x(p.to_deg)];
        const yy = y(p.elevation_deg);
        const right = x2 > x1;
        return (
          <g key={p.elevation_deg}>
            <rect
              x={Math.min(x1, x2)}
              y={yy - (beamwidth / 2) * px}
              width={Math.abs(x2 - x1)}
              height={beamwidth * px}
              fill="var(--color-halo)"
              opacity="0.6"
            />
            <line
              x1={x1}
              x2={x2 - (right ? 8 : -8)}
              y1={yy}
              y2={yy}
              stroke="var(--color-copper)"
              strokeWidth="2"
            />
            <path
              d={right ? `M${x2} ${yy}l-10 -5v10z` : `M${x2} ${yy}l10 -5v10z`}
              fill="var(--color-copper)"
            />
            <text
              x={x1 + (right ? -6 : 6)}
              y={yy + 4.5}
              textAnchor={right ? "end" : "start"}
              fontSize="13"
              fontWeight="700"
            >
              {i + 1}
            </text>
          </g>
        );
      })}
      {others
        .filter((o) => Math.abs(off(o.azimuth)) < reach && o.elevation > low && o.elevation < high)
        .map((o) => (
          <g key={o.name}>
            <circle
              cx={x(o.azimuth)}
              cy={y(o.elevation)}
              r="4"
              fill="var(--color-sheet)"
              stroke="var(--color-ink)"
              strokeWidth="1.4"
            />
            <text
              x={x(o.azimuth)}
              y={y(o.elevation) - 8}
              textAnchor="middle"
              fontSize="12"
              paintOrder="stroke"
              stroke="var(--color-sky)"
              strokeWidth="3"
            >
              {o.name}
            </text>
          </g>
        ))}
      <circle
        cx={x(azimuth)}
        cy={y(elevation)}
        r="5.5"
        fill="var(--color-copper)"
        stroke="var(--color-sheet)"
      />
      <text
        x={x(azimuth)}
        y={y(elevation) - 10}
        textAnchor="middle"
        fontSize="13"
        fontWeight="700"
        paintOrder="stroke"
        stroke="var(--color-sky)"
        strokeWidth="4"
      >
        {name}
      </text>
      <rect x="0" y={height - 26} width={width} height="26" fill="var(--color-ground)" />
      {ticks.map((t) => (
        <g key={t}>
          <line x1={x(t)} x2={x(t)} y1={height - 26} y2={height - 21} stroke="var(--color-ink)" />
          {t % 2 === 0 && (
            <text x={x(t)} y={height - 8} textAnchor="middle" fontSize="12" className="mono">
              {(t + 360) % 360}
            </text>
          )}
        </g>
      ))}
      <text x="8" y={height - 8} fontSize="12">
        °T
      </text>
    </svg>
  );
}
