import { figureOf } from "../units/units";
import type { SearchPlan } from "../wire/types";
import { Room, type Spot } from "./labels";

/**
 * The passes on the sky, one beam wide, in their order; the wanted satellite and what is met.
 * Bearings are true; the ruler reads `shift` less, by the north that is named.
 */
export function SearchPicture({
  plan,
  azimuth,
  elevation,
  beamwidth,
  name,
  others,
  shift,
  north,
  width,
}: {
  plan: SearchPlan;
  azimuth: number;
  elevation: number;
  beamwidth: number;
  name: string;
  others: { name: string; azimuth: number; elevation: number }[];
  shift: number;
  north: string;
  width: number;
}) {
  const rows = plan.passes;
  const off = (az: number) => ((((az - azimuth + 180) % 360) + 360) % 360) - 180;
  const across = rows.map((p) => (plan.upright ? off(p.at_deg) : plan.half_width_deg));
  const reach = Math.max(...across.map(Math.abs)) + 3;
  const ys = rows.flatMap((p) => (plan.upright ? [p.from_deg, p.to_deg] : [p.at_deg]));
  const low = Math.min(...ys) - beamwidth - 1;
  const high = Math.max(...ys) + beamwidth + 1;
  const px = Math.min((width - 60) / (2 * reach), 300 / (high - low), 40);
  const height = Math.max((high - low) * px + 34, 120);
  const x = (az: number) => width / 2 + off(az) * px;
  const y = (el: number) => (height - 28) / 2 - (el - (low + high) / 2) * px;
  const ticks = Array.from({ length: 21 }, (_, i) => Math.round(azimuth - shift) - 10 + i).filter(
    (t) => Math.abs(t + shift - azimuth) < reach,
  );
  const room = new Room();
  const numbers = rows.map((p, i) => {
    const behind = Math.sign(p.to_deg - p.from_deg) * -12;
    const [nx, ny] = plan.upright
      ? [x(p.at_deg), y(p.from_deg) - behind]
      : [x(p.from_deg) + behind, y(p.at_deg)];
    const at: Spot = { x: nx, y: ny + 5, anchor: "middle" };
    return room.place(String(i + 1), [at], 13) ?? at;
  });
  const title: Spot = { x: x(azimuth), y: y(elevation) - 10, anchor: "middle" };
  room.place(name, [title], 14);
  const met = others
    .filter((o) => Math.abs(off(o.azimuth)) < reach && o.elevation > low && o.elevation < high)
    .map((o) => {
      const [ox, oy] = [x(o.azimuth), y(o.elevation)];
      const spots: Spot[] = [
        { x: ox, y: oy - 8, anchor: "middle" },
        { x: ox, y: oy + 18, anchor: "middle" },
        { x: ox + 8, y: oy + 4, anchor: "start" },
        { x: ox - 8, y: oy + 4, anchor: "end" },
      ];
      return { ...o, at: room.place(o.name, spots, 12) };
    });
  return (
    <svg
      width={width}
      height={height}
      className="block bg-sky"
      role="img"
      aria-label={`${rows.length} passes, each ${figureOf(2 * plan.half_width_deg, 1)}° wide`}
    >
      {rows.map((p) => {
        const from = plan.upright ? [x(p.at_deg), y(p.from_deg)] : [x(p.from_deg), y(p.at_deg)];
        const to = plan.upright ? [x(p.at_deg), y(p.to_deg)] : [x(p.to_deg), y(p.at_deg)];
        return <Sweep key={p.at_deg} from={from} to={to} wide={beamwidth * px} />;
      })}
      {met.map((o) => (
        <g key={o.name}>
          <title>{o.name}</title>
          <circle
            cx={x(o.azimuth)}
            cy={y(o.elevation)}
            r="4"
            fill="var(--color-sheet)"
            stroke="var(--color-ink)"
            strokeWidth="1.4"
          />
          {o.at && (
            <text
              x={o.at.x}
              y={o.at.y}
              textAnchor={o.at.anchor}
              fontSize="12"
              paintOrder="stroke"
              stroke="var(--color-sky)"
              strokeWidth="3"
            >
              {o.name}
            </text>
          )}
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
        x={title.x}
        y={title.y}
        textAnchor="middle"
        fontSize="13"
        fontWeight="700"
        paintOrder="stroke"
        stroke="var(--color-sky)"
        strokeWidth="4"
      >
        {name}
      </text>
      {numbers.map((at, i) => (
        <text
          key={rows[i]!.at_deg}
          x={at.x}
          y={at.y}
          textAnchor="middle"
          fontSize="13"
          fontWeight="700"
          className="num"
        >
          {i + 1}
        </text>
      ))}
      <rect x="0" y={height - 26} width={width} height="26" fill="var(--color-ground)" />
      {ticks.map((t) => (
        <g key={t}>
          <line
            x1={x(t + shift)}
            x2={x(t + shift)}
            y1={height - 26}
            y2={height - 21}
            stroke="var(--color-ink)"
          />
          {t % 2 === 0 && x(t + shift) > 48 && (
            <text
              x={x(t + shift)}
              y={height - 8}
              textAnchor="middle"
              fontSize="12"
              className="mono"
            >
              {(t + 360) % 360}
            </text>
          )}
        </g>
      ))}
      <text x="8" y={height - 8} fontSize="12">
        {north}
      </text>
    </svg>
  );
}

/** One pass: the strip that the beam covers and the way it goes. */
function Sweep({ from, to, wide }: { from: number[]; to: number[]; wide: number }) {
  const [x1, y1] = [from[0]!, from[1]!];
  const [x2, y2] = [to[0]!, to[1]!];
  const length = Math.hypot(x2 - x1, y2 - y1);
  const turn = (Math.atan2(y2 - y1, x2 - x1) * 180) / Math.PI;
  return (
    <g transform={`translate(${x1} ${y1}) rotate(${turn})`}>
      <rect
        x="0"
        y={-wide / 2}
        width={length}
        height={wide}
        fill="var(--color-halo)"
        opacity="0.6"
      />
      <line x1="0" x2={length - 8} y1="0" y2="0" stroke="var(--color-copper)" strokeWidth="2" />
      <path d={`M${length} 0l-10 -5v10z`} fill="var(--color-copper)" />
    </g>
  );
}
