import { useShown } from "../units/showing";
import { textOf } from "../units/units";
import type { SiteAnswer } from "../wire/types";
import { Room, type Spot } from "./labels";
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
  const room = new Room({ x: 2, y: 2, w: width - 4, h: H - 4 });
  const entry = {
    x: x(answer.entry_m[0] ?? 0) + 10,
    y: y(answer.entry_m[1] ?? 0) + 4,
    anchor: "start" as const,
  };
  const mount = room.place(
    "mount",
    [
      { x: x(0), y: y(0) + 22, anchor: "middle" },
      { x: x(0), y: y(0) - 12, anchor: "middle" },
    ],
    12,
  ) ?? { x: x(0), y: y(0) + 22, anchor: "middle" as const };
  room.take({ x: x(0) - 8, y: y(0) - 8, w: 16, h: 16 });
  const entryAt =
    room.place(
      "cable entry",
      [
        entry,
        { ...entry, x: entry.x - 20, anchor: "end" },
        { ...entry, x: entry.x - 10, y: entry.y + 20, anchor: "middle" },
        { ...entry, x: entry.x - 10, y: entry.y - 16, anchor: "middle" },
      ],
      12,
    ) ?? entry;
  room.take({ x: width - 48, y: 16, w: 28, h: 56 }); // the north arrow
  room.take({ x: 16, y: H - 28, w: 80 + bar * scale, h: 24 }); // the scale
  const letters = new Map(
    answer.shapes.map((s) => {
      const n = s.points_m.length;
      const mx = x(s.points_m.reduce((sum, p) => sum + (p[0] ?? 0) / n, 0));
      const my = y(s.points_m.reduce((sum, p) => sum + (p[1] ?? 0) / n, 0)) + 4;
      const near = [0, 14, -14, 24, -24].flatMap((dx) =>
        [0, 12, -12].map((dy): Spot => ({ x: mx + dx, y: my + dy, anchor: "middle" })),
      );
      return [s.name + s.letter, s.letter ? room.place(s.letter, near, 12) : null] as const;
    }),
  );
  // Words of a ray stand on it, as far out as there is room.
  const rays = answer.rays.map((r) => {
    const a = (r.azimuth_deg * Math.PI) / 180;
    const out = Math.min(
      Math.abs((width / 2 - 30) / (Math.sin(a) || 1e-6)),
      Math.abs((H / 2 - 20) / (Math.cos(a) || 1e-6)),
    );
    const anchor = Math.sin(a) > 0.3 ? "end" : Math.sin(a) < -0.3 ? "start" : "middle";
    // Among rays that leave close together, the outer ones have their words on the outside.
    const turn = (o: { azimuth_deg: number }) =>
      ((o.azimuth_deg - r.azimuth_deg + 540) % 360) - 180;
    const beside = answer.rays.filter((o) => o !== r && Math.abs(turn(o)) < 28);
    const clockwise = beside.filter((o) => turn(o) > 0).length;
    const outside = clockwise <= beside.length - clockwise ? 1 : -1;
    // Clockwise is on the left of a ray that runs down the picture.
    const right = outside * (Math.cos(a) >= 0 ? 1 : -1) > 0;
    const spots = Array.from({ length: 24 }, (_, i): Spot => {
      const away = out - 17 * i;
      const on: Spot = { x: x(0) + Math.sin(a) * away, y: y(0) - Math.cos(a) * away, anchor };
      if (!beside.length) return on;
      return { ...on, x: on.x + (right ? 7 : -7), anchor: right ? "start" : "end" };
    }).filter((_, i) => out - 17 * i > 40);
    const words = `${r.name} ${r.azimuth_deg.toFixed(1)}°T`;
    return { r, a, at: room.place(words, spots, 14) };
  });
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
          const letter = letters.get(s.name + s.letter);
          return (
            <g key={s.name + s.letter}>
              <path
                d={outline(s.points_m)}
                fill={s.kind === "building" ? "var(--color-sheet)" : "var(--color-ground)"}
                stroke="var(--color-ink)"
                strokeWidth={s.kind === "building" ? 2 : 1}
              />
              {s.letter && letter && (
                <text
                  x={letter.x}
                  y={letter.y}
                  textAnchor={letter.anchor}
                  fontSize="12"
                  fontWeight={700}
                >
                  {s.letter}
                </text>
              )}
            </g>
          );
        })}
        {rays.map(({ r, a, at: words }) => {
          const far = 1500;
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
              {words && (
                <text
                  x={words.x}
                  y={words.y}
                  textAnchor={words.anchor}
                  fontSize="13"
                  fontWeight="600"
                  paintOrder="stroke"
                  stroke="var(--color-sky)"
                  strokeWidth="4"
                >
                  {r.name} <tspan className="mono">{r.azimuth_deg.toFixed(1)}°T</tspan>
                </text>
              )}
            </g>
          );
        })}
        <path
          d={`M${x(answer.entry_m[0] ?? 0) - 6} ${y(answer.entry_m[1] ?? 0)}h12m-6 -6v12`}
          stroke="var(--color-copper)"
          strokeWidth="3"
        />
        <text
          x={entryAt.x}
          y={entryAt.y}
          textAnchor={entryAt.anchor}
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
          x={mount.x}
          y={mount.y}
          textAnchor={mount.anchor}
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
