import { figureOf } from "../units/units";

const C = { x: 170, y: 142 };
const rad = Math.PI / 180;
const at = (deg: number, r: number) =>
  [C.x + r * Math.sin(deg * rad), C.y - r * Math.cos(deg * rad)] as const;

/** The mouth of the LNB as the installer sees it; `turn` is clockwise in this view. */
export function LnbFace({ turn, view }: { turn: number; view: "behind" | "front" }) {
  const ticks = Array.from({ length: 37 }, (_, i) => -90 + i * 5);
  const [ax, ay] = at(-90, 104);
  const [bx, by] = at(90, 104);
  const [fx, fy] = at(turn, 118);
  const sweep = turn >= 0 ? 1 : 0;
  const [s1x, s1y] = at(0, 88);
  const [s2x, s2y] = at(turn, 88);
  const flagX = Math.min(Math.max(fx - 29, 4), 278);
  return (
    <svg
      viewBox="0 0 340 276"
      className="mx-auto h-[236px] max-w-full"
      role="img"
      aria-label={`LNB turned ${figureOf(Math.abs(turn), 1)}° ${turn >= 0 ? "clockwise" : "anticlockwise"}, seen from ${view === "behind" ? "behind the dish" : "in front"}`}
    >
      <path
        d={`M${ax} ${ay}A104 104 0 0 1 ${bx} ${by}`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      {ticks.map((d) => {
        const [x1, y1] = at(d, 104);
        const [x2, y2] = at(d, d % 30 ? 99 : 94);
        const [nx, ny] = at(d, 120);
        return (
          <g key={d}>
            <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--color-ink)" />
            {d % 30 === 0 && d !== 0 && Math.abs(d - turn) > 12 && (
              <text x={nx} y={ny + 5} textAnchor="middle" className="mono" fontSize="12">
                {Math.abs(d)}
              </text>
            )}
          </g>
        );
      })}
      <line x1={C.x} x2={C.x} y1="26" y2="262" stroke="var(--color-ink)" strokeDasharray="5 4" />
      <text x={C.x + 6} y="262" fontSize="12">
        plumb
      </text>
      {Math.abs(turn) > 3 && (
        <path
          d={`M${s1x} ${s1y}A88 88 0 0 ${sweep} ${s2x} ${s2y}`}
          fill="none"
          stroke="var(--color-copper)"
          strokeWidth="2.5"
        />
      )}
      <g transform={`rotate(${turn} ${C.x} ${C.y})`}>
        <g transform={`rotate(${view === "behind" ? 150 : -150} ${C.x} ${C.y})`}>
          <rect
            x={C.x - 11}
            y={C.y - 98}
            width="22"
            height="30"
            fill="var(--color-ground)"
            stroke="var(--color-ink)"
          />
          <rect
            x={C.x - 6}
            y={C.y - 114}
            width="12"
            height="17"
            fill="var(--color-sheet)"
            stroke="var(--color-ink)"
          />
          <line
            x1={C.x}
            x2={C.x}
            y1={C.y - 114}
            y2={C.y - 132}
            stroke="var(--color-copper)"
            strokeWidth="4"
          />
        </g>
        <circle
          cx={C.x}
          cy={C.y}
          r="72"
          fill="var(--color-ground)"
          stroke="var(--color-ink)"
          strokeWidth="1.5"
        />
        <circle cx={C.x} cy={C.y} r="58" fill="var(--color-sheet)" stroke="var(--color-ink)" />
        <circle
          cx={C.x}
          cy={C.y}
          r="40"
          fill="var(--color-sky)"
          stroke="var(--color-ink)"
          strokeWidth="1.5"
        />
        <line
          x1={C.x}
          x2={C.x}
          y1={C.y - 40}
          y2={C.y - 8}
          stroke="var(--color-copper)"
          strokeWidth="4"
        />
        <line
          x1={C.x + (view === "behind" ? 8 : -8)}
          x2={C.x + (view === "behind" ? 40 : -40)}
          y1={C.y}
          y2={C.y}
          stroke="var(--color-copper)"
          strokeWidth="4"
        />
        <line
          x1={C.x}
          x2={C.x}
          y1={C.y - 72}
          y2={C.y - 104}
          stroke="var(--color-copper)"
          strokeWidth="2"
        />
        <text x={C.x - 10} y={C.y - 44} textAnchor="middle" fontSize="13" fontWeight="700">
          V
        </text>
        <text
          x={C.x + (view === "behind" ? 48 : -48)}
          y={C.y - 6}
          textAnchor="middle"
          fontSize="13"
          fontWeight="700"
        >
          H
        </text>
      </g>
      <rect
        x={flagX}
        y={Math.max(fy - 16, 4)}
        width="58"
        height="19"
        rx="2"
        fill="var(--color-copper)"
      />
      <text
        x={flagX + 29}
        y={Math.max(fy - 16, 4) + 14}
        textAnchor="middle"
        className="mono"
        fontSize="13"
        fontWeight="700"
        style={{ fill: "var(--color-sheet)" }}
      >
        {figureOf(Math.abs(turn), 1)}°
      </text>
    </svg>
  );
}
