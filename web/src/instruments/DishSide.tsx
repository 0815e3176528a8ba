import { figureOf } from "../units/units";

const rad = Math.PI / 180;
const PLUMB_X = 128;
const MID_Y = 150;

/** The dish from the side, to scale: an offset paraboloid cut from its offset angle and size. */
export function DishSide({
  elevation,
  offset,
  lean,
  reads,
  name,
  onStructure,
}: {
  elevation: number;
  offset: number;
  lean: number;
  reads: number | null;
  name: string;
  onStructure: boolean;
}) {
  // Face line: through (PLUMB_X, MID_Y), leaning back from plumb by `lean`.
  const half = 92;
  const up = [-Math.sin(lean * rad), -Math.cos(lean * rad)] as const;
  const top = [PLUMB_X + up[0] * half, MID_Y + up[1] * half] as const;
  const low = [PLUMB_X - up[0] * half, MID_Y - up[1] * half] as const;
  const beam = [Math.cos(elevation * rad), -Math.sin(elevation * rad)] as const;
  const normal = [Math.cos(lean * rad), -Math.sin(lean * rad)] as const;
  const depth = 19;
  const belly = [PLUMB_X - normal[0] * depth * 2, MID_Y - normal[1] * depth * 2] as const;
  // The focus lies where rays along the beam are thrown: below the face's middle by the offset.
  const f = 118;
  const thrown = (2 * lean - elevation) * rad;
  const focus = [
    PLUMB_X + Math.cos(thrown) * f * 0.86 - normal[0] * depth,
    MID_Y - Math.sin(thrown) * f * 0.86 - normal[1] * depth,
  ] as const;
  const mid = [(PLUMB_X + belly[0]) / 2, (MID_Y + belly[1]) / 2] as const;
  const ray = (p: readonly [number, number], n: number) => (
    <g key={n}>
      <line
        x1={p[0]}
        y1={p[1]}
        x2={p[0] + beam[0] * 320}
        y2={p[1] + beam[1] * 320}
        stroke="var(--color-copper)"
        strokeWidth={n === 1 ? 2.5 : 1.2}
      />
      <line
        x1={p[0]}
        y1={p[1]}
        x2={focus[0]}
        y2={focus[1]}
        stroke="var(--color-copper)"
        strokeWidth={n === 1 ? 2.5 : 1.2}
      />
    </g>
  );
  const arcEnd = [mid[0] + beam[0] * 175, mid[1] + beam[1] * 175] as const;
  const leanText = `${figureOf(Math.abs(lean), 1)}°`;
  return (
    <svg
      viewBox="0 0 392 276"
      className="block h-full w-full bg-sky"
      preserveAspectRatio="xMidYMid meet"
      role="img"
      aria-label={`Dish from the side: beam ${figureOf(elevation, 1)}° up, offset ${figureOf(offset, 1)}°, face ${leanText} ${lean < 0 ? "past plumb" : "back from plumb"}`}
    >
      <rect
        x="58"
        y="120"
        width="11"
        height="160"
        fill="var(--color-ground)"
        stroke="var(--color-ink)"
      />
      <rect
        x="54"
        y={mid[1] - 13}
        width="19"
        height="28"
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
      />
      <line x1="73" y1={mid[1]} x2={mid[0]} y2={mid[1]} stroke="var(--color-ink)" strokeWidth="7" />
      <line
        x1="73"
        y1={mid[1]}
        x2={mid[0]}
        y2={mid[1]}
        stroke="var(--color-ground)"
        strokeWidth="5"
      />
      <line
        x1={mid[0]}
        y1={mid[1]}
        x2="392"
        y2={mid[1]}
        stroke="var(--color-ink)"
        strokeDasharray="2 3"
      />
      <text x="382" y={mid[1] + 15} textAnchor="end" fontSize="12">
        level
      </text>
      <line
        x1={PLUMB_X}
        y1="18"
        x2={PLUMB_X}
        y2="262"
        stroke="var(--color-ink)"
        strokeDasharray="6 4"
      />
      <path
        d={`M${top[0]} ${top[1]}Q${belly[0]} ${belly[1]} ${low[0]} ${low[1]}`}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="7"
      />
      <path
        d={`M${top[0]} ${top[1]}Q${belly[0]} ${belly[1]} ${low[0]} ${low[1]}`}
        fill="none"
        stroke="var(--color-sheet)"
        strokeWidth="4"
      />
      <line
        x1={low[0]}
        y1={low[1]}
        x2={focus[0]}
        y2={focus[1] + 8}
        stroke="var(--color-ink)"
        strokeWidth="4"
      />
      {ray(top, 0)}
      {ray(mid, 1)}
      {ray(low, 2)}
      <g transform={`translate(${focus[0]} ${focus[1]}) rotate(${-thrown / rad})`}>
        <rect
          x="-4"
          y="-7"
          width="10"
          height="14"
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
        />
        <rect
          x="6"
          y="-5"
          width="20"
          height="10"
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
        />
      </g>
      {!onStructure && (
        <line
          x1={top[0] - up[0] * -6}
          y1={top[1] + up[1] * 6}
          x2={low[0] - up[0] * 6}
          y2={low[1] - up[1] * 6}
          stroke="var(--color-ink)"
          strokeWidth="5"
        />
      )}
      <g
        transform={
          onStructure
            ? `translate(${mid[0] - 16} ${mid[1] - 34}) rotate(${-elevation})`
            : `translate(${PLUMB_X + up[0] * 46 + normal[0] * 13} ${MID_Y + up[1] * 46 + normal[1] * 13}) rotate(${-lean})`
        }
      >
        <rect
          x="-8"
          y="-21"
          width="16"
          height="42"
          rx="2"
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
          strokeWidth="1.5"
        />
        <line x1="0" x2="0" y1="-9" y2="9" stroke="var(--color-ink)" strokeWidth="2.5" />
      </g>
      <path
        d={`M${mid[0] + 175} ${mid[1]}A175 175 0 0 ${elevation >= 0 ? 0 : 1} ${arcEnd[0]} ${arcEnd[1]}`}
        fill="none"
        stroke="var(--color-ink)"
      />
      <text
        x={mid[0] + 184}
        y={mid[1] - Math.max(14, Math.sin((elevation / 2) * rad) * 175 - 5)}
        className="mono"
        fontSize="14"
        fontWeight="700"
      >
        {figureOf(elevation, 1)}°
      </text>
      <text
        x="300"
        y={Math.max(mid[1] - Math.tan(elevation * rad) * 220 - 12, 16)}
        textAnchor="middle"
        fontSize="13"
        fontWeight="600"
        paintOrder="stroke"
        stroke="var(--color-sky)"
        strokeWidth="4"
      >
        to {name}
      </text>
      <text
        x={PLUMB_X + (lean > 0 ? 10 : 10)}
        y="30"
        paintOrder="stroke"
        stroke="var(--color-sky)"
        strokeWidth="4"
        className="mono"
        fontSize="14"
        fontWeight="700"
      >
        {leanText}
      </text>
      <text
        x={PLUMB_X + 10}
        y="45"
        fontSize="12"
        paintOrder="stroke"
        stroke="var(--color-sky)"
        strokeWidth="4"
      >
        {lean < 0 ? "past plumb" : "back from plumb"}
      </text>
      {reads != null && (
        <>
          <text x="382" y="228" textAnchor="end" fontSize="13">
            the tool reads
          </text>
          <text x="382" y="258" textAnchor="end" className="mono" fontSize="28" fontWeight="600">
            {figureOf(reads, 1)}°
          </text>
        </>
      )}
    </svg>
  );
}
