/** Cost against reserve: each point a plan; today's run as a triangle, the wanted reserve dashed. */
export function CostCurve({
  points,
  today,
  wanted,
  picked,
  onPick,
  unit,
}: {
  points: { cost: number; reserve: number }[];
  today: number | null;
  wanted: number;
  picked: { a: number | null; b: number | null };
  onPick: (point: number) => void;
  unit: string;
}) {
  const [W, H, LEFT, FOOT] = [432, 250, 28, 212];
  const most = Math.max(...points.map((p) => p.cost), 1);
  const top = Math.max(
    2,
    Math.ceil((Math.max(...points.map((p) => p.reserve), wanted) + 0.5) / 2) * 2,
  );
  const stepX = nice(most / 5);
  const end = Math.max(stepX, Math.ceil((most * 1.04) / stepX) * stepX);
  const x = (cost: number) => LEFT + 8 + (cost / end) * (W - LEFT - 30);
  const y = (db: number) => FOOT - (Math.max(db, 0) / top) * (FOOT - 14);
  const stepY = top > 8 ? 4 : 2;
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="w-full max-w-[432px]"
      role="group"
      aria-label="What reserve costs"
    >
      {Array.from({ length: Math.floor(top / stepY) + 1 }, (_, i) => i * stepY).map((db) => (
        <g key={db}>
          <line x1={LEFT + 4} x2={W - 4} y1={y(db)} y2={y(db)} stroke="var(--color-line)" />
          <text x={LEFT - 4} y={y(db) + 4} textAnchor="end" fontSize="12" className="mono">
            {db}
          </text>
        </g>
      ))}
      <text x={LEFT + 12} y={y(top) + 16} fontSize="12" style={{ fill: "var(--color-muted)" }}>
        dB of reserve
      </text>
      {Array.from({ length: Math.round(end / stepX) + 1 }, (_, i) => i * stepX).map((c) => (
        <text key={c} x={x(c)} y={FOOT + 18} textAnchor="middle" fontSize="12" className="mono">
          {c}
        </text>
      ))}
      <text
        x={W - 4}
        y={FOOT + 34}
        textAnchor="end"
        fontSize="12"
        style={{ fill: "var(--color-muted)" }}
      >
        to buy, {unit}
      </text>
      <line
        x1={LEFT + 4}
        x2={W - 4}
        y1={y(wanted)}
        y2={y(wanted)}
        stroke="var(--color-fail)"
        strokeDasharray="5 3"
      />
      <text
        x={W - 4}
        y={y(wanted) + 15}
        textAnchor="end"
        fontSize="12"
        style={{ fill: "var(--color-fail)" }}
      >
        wanted reserve
      </text>
      <path
        d={points
          .map((p, i) => `${i ? "L" : "M"}${x(p.cost).toFixed(1)} ${y(p.reserve).toFixed(1)}`)
          .join("")}
        fill="none"
        stroke="var(--color-copper)"
        strokeWidth="1.6"
      />
      {today != null && (
        <g>
          <path
            d={`M${x(0)} ${y(today) - 7}l6 11h-12z`}
            fill="var(--color-sheet)"
            stroke="var(--color-ink)"
            strokeWidth="1.4"
          />
          <text
            x={x(0) - 2}
            // A plan that is the run as it is has its letter above.
            y={
              points.some((p) => p.cost === 0)
                ? Math.min(y(today) + 20, FOOT - 4)
                : Math.min(y(today), FOOT) - 14
            }
            fontSize="12"
            style={{ fill: "var(--color-muted)" }}
          >
            as it is{today < 0 ? `: ${Math.abs(today).toFixed(1)} dB under` : ""}
          </text>
        </g>
      )}
      {points.map((p, i) => {
        const letter = i === picked.a ? "A" : i === picked.b ? "B" : "";
        const colour = i === picked.a ? "var(--color-copper)" : "var(--color-ink)";
        return (
          <g key={i}>
            <circle
              cx={x(p.cost)}
              cy={y(p.reserve)}
              r={letter ? 6 : 4.5}
              fill={letter ? colour : "var(--color-sheet)"}
              stroke={letter ? colour : "var(--color-copper)"}
              strokeWidth="1.8"
            />
            {letter && (
              <text
                x={x(p.cost)}
                y={y(p.reserve) - 12}
                textAnchor="middle"
                fontSize="15"
                fontWeight="700"
                style={{ fill: colour }}
              >
                {letter}
              </text>
            )}
            <rect
              x={x(p.cost) - 12}
              y={y(p.reserve) - 12}
              width="24"
              height="24"
              rx="2"
              fill="transparent"
              className="cursor-pointer"
              role="button"
              tabIndex={0}
              aria-pressed={letter !== ""}
              aria-label={`Plan ${i + 1}: ${p.cost.toFixed(0)} for ${p.reserve.toFixed(1)} dB of reserve`}
              onClick={() => onPick(i)}
              onKeyDown={(e) => {
                if (e.key === "Enter" || e.key === " ") {
                  e.preventDefault();
                  onPick(i);
                }
              }}
            />
          </g>
        );
      })}
    </svg>
  );
}

function nice(rough: number) {
  const ten = 10 ** Math.floor(Math.log10(Math.max(rough, 1)));
  const by = rough / ten;
  return Math.max(1, (by < 1.5 ? 1 : by < 3.5 ? 2 : by < 7.5 ? 5 : 10) * ten);
}
