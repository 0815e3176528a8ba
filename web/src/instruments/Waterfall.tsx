import { useShown } from "../units/showing";
import { figureOf, textOf } from "../units/units";
import type { LinkRow } from "../wire/types";

const ROW = 25;
const LEFT = 102;
const RIGHT = 62;

/**
 * From the satellite to the LNB's output: each term a step of the copper line, power to the right.
 * Free space and the LNB's gain are drawn with a break, so that a decibel in between can be seen.
 */
export function Waterfall({ row, width }: { row: LinkRow; width: number }) {
  const at = useShown();
  const terms = row.terms;
  const powers = terms.map((t) => t.after_dbw);
  const end = terms.length - 1;
  const inner = powers.slice(1, end);
  const high = Math.max(...inner) + 4;
  const low = Math.min(...inner) - 3;
  const right = width - RIGHT;
  const linear = (dbw: number) => LEFT + ((dbw - low) / (high - low)) * (right - 46 - LEFT);
  const x = (i: number) => (i === 0 || i === end ? right - 8 : linear(powers[i]!));
  const y = (i: number) => 26 + i * ROW;
  const height = y(terms.length) + 14;
  const ticks = Array.from({ length: 30 }, (_, i) => -60 - i * 20).filter(
    (v) => v > low && v < high,
  );
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`Link of ${row.name}: ${terms.map((t) => `${t.name} ${figureOf(t.change_db, 1)} dB`).join(", ")}`}
      className="block"
    >
      {ticks.map((v) => (
        <g key={v}>
          <line x1={linear(v)} x2={linear(v)} y1="18" y2={height - 18} stroke="var(--color-line)" />
          <text
            x={linear(v)}
            y="12"
            textAnchor="middle"
            fontSize="12"
            className="mono"
            style={{ fill: "var(--color-muted)" }}
          >
            {figureOf(v, 0)}
          </text>
        </g>
      ))}
      <text
        x={width - 2}
        y="12"
        textAnchor="end"
        fontSize="12"
        style={{ fill: "var(--color-muted)" }}
      >
        dBW
      </text>
      {terms.map((t, i) => {
        const from = x(Math.max(i - 1, 0));
        const to = x(i);
        const broken = i === 1 || i === end;
        const small = Math.abs(to - from) < 3;
        const wet = t.name === "Rain";
        const colour = wet ? "var(--color-marginal)" : "var(--color-copper)";
        return (
          <g key={t.name}>
            <text x="0" y={y(i) + 4.5} fontSize="13" fontWeight={i === 0 || i === end ? 700 : 400}>
              {t.name}
            </text>
            {i > 0 && (
              <line
                x1={from}
                x2={from}
                y1={y(i - 1)}
                y2={y(i)}
                stroke="var(--color-copper)"
                strokeWidth="3"
              />
            )}
            {i > 0 && !small && (
              <line
                x1={from}
                x2={to}
                y1={y(i)}
                y2={y(i)}
                stroke={colour}
                strokeWidth="3"
                strokeDasharray={wet ? "5 3" : undefined}
              />
            )}
            {broken && (
              <path
                d={`M${right - 32} ${y(i) - 6}l4 12M${right - 26} ${y(i) - 6}l4 12`}
                stroke="var(--color-sheet)"
                strokeWidth="4"
              />
            )}
            {broken && (
              <path
                d={`M${right - 34} ${y(i) - 6}l4 12M${right - 24} ${y(i) - 6}l4 12`}
                stroke="var(--color-ink)"
                strokeWidth="1.2"
              />
            )}
            <circle
              cx={to}
              cy={y(i)}
              r={i === 0 || i === end ? 5.5 : 3.5}
              fill="var(--color-sheet)"
              stroke={colour}
              strokeWidth="2.5"
            />
            <text
              x={width - 2}
              y={y(i) + 4.5}
              textAnchor="end"
              fontSize="13"
              className="mono"
              fontWeight="600"
            >
              {i === 0
                ? figureOf(t.change_db, 1)
                : `${t.change_db > 0 ? "+" : ""}${figureOf(t.change_db, 1)}`}
            </text>
          </g>
        );
      })}
      <text x={width - 2} textAnchor="end" y={y(terms.length) + 2} fontSize="13" fontWeight="700">
        {figureOf(powers[powers.length - 1]!, 1)} dBW ={" "}
        {textOf({ value: row.level_dbuv, unit: "dbuv", digits: 1 }, at)} at the LNB
      </text>
    </svg>
  );
}
