import { figureOf } from "../units/units";

const C = { x: 170, y: 118 };
const R = 92;
const FLOOR_DB = 30;
const rad = Math.PI / 180;
const radius = (down: number) => R * Math.max(1 - down / FLOOR_DB, 0.02);
const at = (deg: number, r: number) =>
  [C.x + r * Math.sin(deg * rad), C.y - r * Math.cos(deg * rad)] as const;

/** How an antenna hears round the compass where it looks now, and what each transmitter loses by it.
 * `pattern` holds pairs of degrees off the heading and dB below it. */
export function PatternRose({
  pattern,
  heading,
  rays,
}: {
  pattern: (readonly number[])[];
  heading: number;
  rays: { name: string; bearing: number; lost: number }[];
}) {
  const half = pattern.map((p) => at(heading + p[0]!, radius(p[1]!)));
  const other = [...pattern].reverse().map((p) => at(heading - p[0]!, radius(p[1]!)));
  const path = [...half, ...other].map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join("L");
  return (
    <svg
      viewBox="0 0 340 236"
      className="mx-auto h-[236px] max-w-full"
      role="img"
      aria-label={`Pattern toward ${figureOf(heading, 0)}° true`}
    >
      {[0, 10, 20].map((down) => (
        <g key={down}>
          <circle
            cx={C.x}
            cy={C.y}
            r={radius(down)}
            fill="none"
            stroke={down ? "var(--color-line)" : "var(--color-tick)"}
          />
          {down > 0 && (
            <text
              x={C.x + 3}
              y={C.y + radius(down) - 3}
              fontSize="12"
              className="mono"
              style={{ fill: "var(--color-muted)" }}
            >
              −{down}
            </text>
          )}
        </g>
      ))}
      {["N", "E", "S", "W"].map((w, i) => {
        const [x, y] = at(i * 90, R + 11);
        return (
          <text key={w} x={x} y={y + 4} textAnchor="middle" fontSize="12" fontWeight="700">
            {w}
          </text>
        );
      })}
      <path
        d={`M${path}Z`}
        fill="var(--color-halo)"
        stroke="var(--color-copper)"
        strokeWidth="1.8"
      />
      {rays.map((r) => {
        const [x, y] = at(r.bearing, R);
        const [ix, iy] = at(r.bearing, radius(r.lost));
        const [lx, ly] = at(r.bearing, R + 12);
        const text = `${r.name} ${r.lost < 0.5 ? "0" : `−${figureOf(r.lost, 0)}`}`;
        const wide = text.length * 6.6;
        const tx = Math.min(Math.max(r.bearing > 180 ? lx - wide : lx, 2), 338 - wide);
        const ty = ly > C.y ? ly + 12 : ly - 2;
        return (
          <g key={r.name}>
            <line x1={C.x} y1={C.y} x2={x} y2={y} stroke="var(--color-ink)" strokeDasharray="3 3" />
            <circle cx={ix} cy={iy} r="4" fill="var(--color-copper)" stroke="var(--color-sheet)" />
            <text
              x={tx}
              y={ty}
              fontSize="12"
              fontWeight="700"
              paintOrder="stroke"
              stroke="var(--color-sheet)"
              strokeWidth="4"
            >
              {text}
            </text>
          </g>
        );
      })}
      <text x="326" y="232" textAnchor="end" fontSize="12" style={{ fill: "var(--color-muted)" }}>
        dB below the heading
      </text>
    </svg>
  );
}
