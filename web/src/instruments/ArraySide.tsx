import { useShown } from "../units/showing";
import { textOf } from "../units/units";

/** A terrestrial antenna from the side, its boom to scale, elements as many as the boom holds. */
export function ArraySide({
  length,
  upright,
  wave,
  name,
}: {
  length: number;
  upright: boolean;
  wave: number;
  name: string;
}) {
  const scale = Math.min(230 / Math.max(length, 0.5), 150);
  const boom = length * scale;
  const left = 196 - boom / 2;
  const count = Math.max(2, Math.min(Math.round(length / (0.3 * wave)) + 1, 26));
  const half = (wave * scale) / 4;
  const long = textOf({ value: length, unit: "m", digits: 1 }, useShown());
  return (
    <svg
      viewBox="0 0 392 200"
      className="block h-[200px] w-full bg-sky"
      role="img"
      aria-label={`Elements ${upright ? "upright" : "level"}, ${long} long`}
    >
      <rect
        x={left + 8}
        y="96"
        width="9"
        height="104"
        fill="var(--color-ground)"
        stroke="var(--color-ink)"
      />
      <line x1={left} x2={left + boom} y1="92" y2="92" stroke="var(--color-ink)" strokeWidth="4" />
      {Array.from({ length: count }, (_, i) => {
        const x = left + (boom * (i + 0.15)) / (count - 0.7);
        const h = half * (i === 0 ? 1.08 : 1 - (0.16 * i) / count);
        return upright ? (
          <line
            key={x}
            x1={x}
            x2={x}
            y1={92 - h}
            y2={92 + h}
            stroke="var(--color-copper)"
            strokeWidth="3"
          />
        ) : (
          <circle key={x} cx={x} cy="92" r="3.6" fill="var(--color-copper)" />
        );
      })}
      <path
        d={`M${left + boom + 10} 92h26m-8 -5l8 5l-8 5`}
        stroke="var(--color-copper)"
        strokeWidth="2"
        fill="none"
      />
      <text x="378" y="30" textAnchor="end" fontSize="13" fontWeight="700">
        {name}
      </text>
      <path
        d={`M${left} 150v8h${boom}v-8`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="1.2"
      />
      <text x={left + boom / 2} y="174" textAnchor="middle" fontSize="13" className="mono">
        {long}
      </text>
    </svg>
  );
}
