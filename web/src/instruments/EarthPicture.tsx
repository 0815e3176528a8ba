import { severity } from "../units/severity";
import { useShown } from "../units/showing";
import { textOf } from "../units/units";
import type { Bond } from "../wire/types";
import { COLOUR, WORD } from "./StateMark";

const START: Record<string, [number, number, string]> = {
  mast: [150, 60, "mast clamp"],
  shields: [330, 170, "grounding block"],
  devices: [470, 120, "multiswitch"],
  electrodes: [150, 250, "own electrode"],
};

/** One conductor for each role: the worst of those that there are, and how many. */
function worstOfEach(bonds: Bond[]) {
  return [...new Set(bonds.map((b) => b.role))].map((role) => {
    const of = bonds.filter((b) => b.role === role);
    return {
      bond: of.reduce((a, b) => (severity(b.state) < severity(a.state) ? b : a)),
      count: of.length,
    };
  });
}

/** From mast, shields and housings to the earth terminal, each conductor with size and length. */
export function EarthPicture({ bonds }: { bonds: Bond[] }) {
  const at = useShown();
  const drawn = worstOfEach(bonds);
  return (
    <svg
      viewBox="0 0 700 300"
      className="w-full bg-sky"
      role="img"
      aria-label="Bonding from mast and shields to the earth terminal"
    >
      <rect x="0" y="262" width="700" height="38" fill="var(--color-ground)" />
      <path
        d="M240 262V110L400 50L600 110V262"
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      <rect
        x="144"
        y="20"
        width="10"
        height="190"
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
      />
      <path d="M154 140h86M154 190h86" stroke="var(--color-ink)" strokeWidth="3" />
      <path d="M120 46Q106 66 128 88" fill="none" stroke="var(--color-ink)" strokeWidth="3" />
      <path
        d="M149 24H90M100 18v12M112 16v16M124 14v20"
        stroke="var(--color-ink)"
        strokeWidth="2"
      />
      <path
        d="M154 120H330V170M330 170H470"
        fill="none"
        stroke="var(--color-copper)"
        strokeWidth="2"
      />
      <rect
        x="316"
        y="162"
        width="28"
        height="16"
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
      />
      <rect
        x="452"
        y="100"
        width="36"
        height="80"
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
      />
      <g transform="translate(560 246)">
        <rect
          x="-30"
          y="-14"
          width="60"
          height="14"
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
          strokeWidth="1.5"
        />
        <path d="M0 0v22M-14 22h28M-9 27h18M-4 32h8" stroke="var(--color-ink)" strokeWidth="2" />
        <text x="38" y="-2" fontSize="12">
          earth terminal
        </text>
      </g>
      {drawn.map(({ bond: b, count }, i) => {
        const start = START[b.role] ?? [300, 200, b.name];
        const y = 214 + i * 8;
        const state = b.needed ? b.state : "unknown";
        const dashed = !b.connected;
        const lx = b.role === "mast" ? 138 : start[0] + 14;
        const ly =
          b.role === "mast" ? 150 : b.role === "shields" ? 196 : b.role === "devices" ? 96 : 282;
        return (
          <g key={b.key}>
            <path
              d={`M${start[0]} ${start[1]}V${y}H${540 + i * 12}V232`}
              fill="none"
              stroke={COLOUR[state]}
              strokeWidth="3"
              strokeDasharray={dashed ? "5 5" : undefined}
            />
            <circle
              cx={start[0]}
              cy={start[1]}
              r="5"
              fill="var(--color-sheet)"
              stroke={COLOUR[state]}
              strokeWidth="2.5"
            />
            <text
              x={lx}
              y={ly}
              textAnchor={b.role === "mast" ? "end" : "start"}
              fontSize="13"
              fontWeight="600"
              paintOrder="stroke"
              stroke={b.role === "mast" ? "var(--color-sky)" : "var(--color-sheet)"}
              strokeWidth="4"
            >
              {b.size.value == null
                ? b.needed
                  ? "not bonded"
                  : "not needed"
                : `${count > 1 ? `${count}: ` : ""}${textOf({ value: b.size.value, unit: "mm2", digits: 0 }, at)}, ${textOf({ value: b.length.value ?? 0, unit: "m", digits: 1 }, at)}`}
              <tspan style={{ fill: COLOUR[state] }}> {b.needed ? WORD[state] : ""}</tspan>
            </text>
          </g>
        );
      })}
    </svg>
  );
}
