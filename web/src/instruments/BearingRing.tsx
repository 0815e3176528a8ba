import { figureOf } from "../units/units";
import type { Silhouette } from "../wire/types";
import { Room, textBox } from "./labels";

const C = { x: 170, y: 138 };
const R = 104;
const INNER = 74;
const rad = Math.PI / 180;
const at = (deg: number, r: number) =>
  [C.x + r * Math.sin(deg * rad), C.y - r * Math.cos(deg * rad)] as const;

/** Outer ring true, inner ring turned by the declination; what is in the way between them. */
export function BearingRing({
  azimuth,
  compass,
  declination,
  skyline,
  others,
}: {
  azimuth: number;
  compass: number | null;
  declination: number | null;
  skyline: Silhouette[];
  others: { name: string; azimuth: number }[];
}) {
  const turn = declination ?? 0;
  const ticks = Array.from({ length: 72 }, (_, i) => i * 5);
  const [tx, ty] = at(azimuth, R + 12);
  const [bx, by] = at(azimuth, R - 2);
  const flagX = Math.min(Math.max(tx - (azimuth > 180 ? 66 : 0), 6), 268);
  const flagY = Math.min(Math.max(ty - 8, 6), 232);
  const room = new Room();
  room.take({ x: flagX - 2, y: flagY - 2, w: 70, h: compass == null ? 22 : 42 });
  return (
    <svg
      viewBox="0 0 340 276"
      className="mx-auto h-[236px] max-w-full"
      role="img"
      aria-label={`Bearing ${figureOf(azimuth, 1)}° true${compass == null ? "" : `, ${figureOf(compass, 1)}° by compass`}`}
    >
      {skyline.map((s) => {
        const from = s.points[0]?.[0] ?? 0;
        const to = s.points[s.points.length - 1]?.[0] ?? 0;
        const [x1, y1] = at(from, 80);
        const [x2, y2] = at(to, 80);
        const [x3, y3] = at(to, 97);
        const [x4, y4] = at(from, 97);
        const [lx, ly] = at((from + to) / 2, 88);
        const big = to - from > 180 ? 1 : 0;
        return (
          <g key={s.id}>
            <path
              d={`M${x1} ${y1}A80 80 0 ${big} 1 ${x2} ${y2}L${x3} ${y3}A97 97 0 ${big} 0 ${x4} ${y4}Z`}
              fill="var(--color-ground)"
            />
            <text x={lx} y={ly + 4} textAnchor="middle" fontSize="12" fontWeight="700">
              {s.letter}
            </text>
          </g>
        );
      })}
      <circle cx={C.x} cy={C.y} r={R} fill="none" stroke="var(--color-ink)" strokeWidth="1.5" />
      <circle cx={C.x} cy={C.y} r={INNER} fill="none" stroke="var(--color-tick)" />
      {ticks.map((d) => {
        const [x1, y1] = at(d, R);
        const [x2, y2] = at(d, d % 30 ? R - 5 : R - 9);
        const [mx1, my1] = at(d + turn, INNER);
        const [mx2, my2] = at(d + turn, d % 30 ? INNER - 3 : INNER - 7);
        const [nx, ny] = at(d, R + 15);
        return (
          <g key={d}>
            <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--color-ink)" />
            <line x1={mx1} y1={my1} x2={mx2} y2={my2} stroke="var(--color-tick)" />
            {d % 30 === 0 &&
              room.free(textBox("000", { x: nx, y: ny + 4.5, anchor: "middle" })) && (
                <text
                  x={nx}
                  y={ny + 4.5}
                  textAnchor="middle"
                  fontSize={d % 90 ? 12 : 14}
                  fontWeight={d % 90 ? 400 : 700}
                  className={d % 90 ? "mono" : ""}
                >
                  {{ 0: "N", 90: "E", 180: "S", 270: "W" }[d] ?? d}
                </text>
              )}
          </g>
        );
      })}
      {["N", "E", "S", "W"].map((n, i) => {
        const [x, y] = at(i * 90 + turn, INNER - 16);
        return (
          <text
            key={n}
            x={x}
            y={y + 4.5}
            textAnchor="middle"
            fontSize="12"
            style={{ fill: "var(--color-muted)" }}
          >
            {n}
          </text>
        );
      })}
      <g transform={`rotate(${turn} ${C.x} ${C.y})`}>
        <path d={`M${C.x} ${C.y - 50}l5 50h-10z`} fill="var(--color-ink)" />
        <path d={`M${C.x} ${C.y + 50}l5 -50h-10z`} fill="none" stroke="var(--color-ink)" />
      </g>
      {others.map((o) => {
        const [x1, y1] = at(o.azimuth, R - 2);
        const [x2, y2] = at(o.azimuth, R + 6);
        return (
          <line
            key={o.name}
            x1={x1}
            y1={y1}
            x2={x2}
            y2={y2}
            stroke="var(--color-copper)"
            strokeWidth="2"
          />
        );
      })}
      <line x1={C.x} y1={C.y} x2={bx} y2={by} stroke="var(--color-copper)" strokeWidth="3" />
      <path
        d="M0 -9L6 6H-6Z"
        transform={`translate(${tx} ${ty}) rotate(${azimuth})`}
        fill="var(--color-copper)"
      />
      <circle
        cx={C.x}
        cy={C.y}
        r="4"
        fill="var(--color-sheet)"
        stroke="var(--color-copper)"
        strokeWidth="2.5"
      />
      <rect x={flagX} y={flagY} width="66" height="18" rx="2" fill="var(--color-copper)" />
      <text
        x={flagX + 33}
        y={flagY + 13.5}
        textAnchor="middle"
        className="mono"
        fontSize="13"
        fontWeight="700"
        style={{ fill: "var(--color-sheet)" }}
      >
        {figureOf(azimuth, 1)}°T
      </text>
      {compass != null && (
        <>
          <rect
            x={flagX}
            y={flagY + 20}
            width="66"
            height="18"
            rx="2"
            fill="var(--color-sheet)"
            stroke="var(--color-copper)"
          />
          <text
            x={flagX + 33}
            y={flagY + 33.5}
            textAnchor="middle"
            className="mono"
            fontSize="13"
            fontWeight="600"
          >
            {figureOf(compass, 1)}°M
          </text>
        </>
      )}
    </svg>
  );
}
