import type { Beam, TwoWayView } from "../wire/types";

/** Beams' borders round the place, north up, a degree of longitude shortened as it is there. */
export function BeamMap({
  beams,
  choice,
  latitude,
  longitude,
  width,
}: {
  beams: Beam[];
  choice: TwoWayView["beams"];
  latitude: number;
  longitude: number;
  width: number;
}) {
  const height = 250;
  const squeeze = Math.cos((latitude * Math.PI) / 180);
  const points = beams.flatMap((b) => b.boundary.map((p) => [p[0]! * squeeze, p[1]!] as const));
  const xs = [...points.map((p) => p[0]), longitude * squeeze];
  const ys = [...points.map((p) => p[1]), latitude];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const px = Math.min(
    (width - 30) / Math.max(x1 - x0, 0.1),
    (height - 30) / Math.max(y1 - y0, 0.1),
  );
  const at = (lon: number, lat: number) =>
    [
      width / 2 + (lon * squeeze - (x0 + x1) / 2) * px,
      height / 2 - (lat - (y0 + y1) / 2) * px,
    ] as const;
  const [sx, sy] = at(longitude, latitude);
  return (
    <svg
      width={width}
      height={height}
      className="block bg-sky"
      role="img"
      aria-label={`Beams: ${choice.map((c) => `${c.name} ${c.inside ? "holds the place" : "does not"}`).join(", ")}`}
    >
      {beams.map((b) => {
        const inside = choice.find((c) => c.beam === b.id)?.inside ?? false;
        const ring = b.boundary.map((p) => at(p[0]!, p[1]!));
        const middle = ring.reduce(
          (a, p) => [a[0] + p[0] / ring.length, a[1] + p[1] / ring.length],
          [0, 0],
        );
        return (
          <g key={b.id}>
            <path
              d={`M${ring.map((p) => `${p[0].toFixed(1)} ${p[1].toFixed(1)}`).join("L")}Z`}
              fill={inside ? "var(--color-halo)" : "none"}
              fillOpacity="0.7"
              stroke={inside ? "var(--color-copper)" : "var(--color-tick)"}
              strokeWidth={inside ? 2.5 : 1.5}
              strokeDasharray={inside ? undefined : "5 4"}
            />
            <text
              x={middle[0]}
              y={middle[1]! - (inside ? 18 : 0)}
              textAnchor="middle"
              fontSize="13"
              fontWeight={inside ? 700 : 400}
              paintOrder="stroke"
              stroke="var(--color-sky)"
              strokeWidth="3"
            >
              {b.name}
            </text>
          </g>
        );
      })}
      <circle cx={sx} cy={sy} r="5.5" fill="var(--color-copper)" stroke="var(--color-sheet)" />
      <path
        d={`M${width - 18} 30v-18m-5 6l5 -6l5 6`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      <text x={width - 18} y="42" textAnchor="middle" fontSize="12">
        N
      </text>
    </svg>
  );
}
