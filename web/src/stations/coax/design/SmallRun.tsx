import { BracketGauge } from "../../../instruments/BracketGauge";
import type { PlanView } from "../../../service/client";
import { isBarKind, ownRow } from "../nodes";

const WIDE = 420;
const GAUGES = 96;

/** A plan drawn small: what is new in it thick and haloed, and a gauge for each outlet. */
export function SmallRun({ plan }: { plan: PlanView }) {
  const { layout } = plan;
  const row = Math.min(24, Math.max(7, 300 / Math.max(layout.rows, 1)));
  // Antennas that meet in a combiner stand above the first outlet.
  const above = Math.min(0, ...layout.places.map((p) => p.top));
  const y = (r: number) => 14 + (r - above) * row;
  const barX = WIDE - GAUGES - 60;
  const x = (column: number) =>
    16 + (layout.columns > 1 ? (column * (barX - 30)) / (layout.columns - 1) : 0);
  const places = new Map(layout.places.map((p) => [p.part, p]));
  const fresh = new Set(plan.fresh);
  const leafX = (metres: number) => barX + 12 + Math.min(metres, 60) * 0.7;
  const outlets = layout.places.filter((p) => plan.kinds[p.part] === "plate");
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${y(layout.rows) + 8}`}
      className="w-full max-w-[440px]"
      role="img"
      aria-label={plan.words}
    >
      {plan.links.map((k) => {
        const from = places.get(k.from_part);
        const to = places.get(k.to_part);
        if (!from || !to) return null;
        const at = y(to.in_rows[k.to_port ?? 0] ?? to.top);
        const x2 = to.leaf ? leafX(k.length_m) : x(to.column);
        const isNew = fresh.has(k.id);
        return (
          <g key={k.id}>
            {isNew && (
              <line
                x1={x(from.column)}
                x2={x2}
                y1={at}
                y2={at}
                stroke="var(--color-halo)"
                strokeWidth="9"
              />
            )}
            <line
              x1={x(from.column)}
              x2={x2}
              y1={at}
              y2={at}
              stroke="var(--color-copper)"
              strokeWidth={isNew ? 3.4 : 1.5}
            />
          </g>
        );
      })}
      {layout.places.map((p) => {
        const kind = plan.kinds[p.part] ?? "";
        const edge = {
          stroke: fresh.has(p.part) ? "var(--color-copper)" : "var(--color-ink)",
          strokeWidth: fresh.has(p.part) ? 2.4 : 1.3,
          fill: "var(--color-sheet)",
        };
        if (p.leaf) {
          const lead = plan.links.find((k) => k.to_part === p.part);
          const end = leafX(lead?.length_m ?? 0);
          return kind === "terminator" ? (
            <rect
              key={p.part}
              x={end - 3}
              y={y(p.top) - 4}
              width="6"
              height="8"
              fill="var(--color-ink)"
            />
          ) : (
            <circle key={p.part} cx={end} cy={y(p.top)} r={Math.min(4.5, row / 2.4)} {...edge} />
          );
        }
        const wide = kind === "multiswitch" || kind === "splitter" ? 14 : 7;
        if (isBarKind(kind))
          return (
            <rect
              key={p.part}
              x={x(p.column) - wide / 2}
              y={y(p.top) - 7}
              width={wide}
              height={y(p.bottom) - y(p.top) + 14}
              {...edge}
            />
          );
        const middle = (y(p.top) + y(p.bottom)) / 2;
        if (kind === "antenna" || kind === "lnb" || kind === "line")
          return (
            <path
              key={p.part}
              d={`M${x(p.column)} ${middle - 8}v16M${x(p.column) - 10} ${middle}h10M${x(p.column) - 6} ${middle - 5}v10`}
              {...edge}
              fill="none"
            />
          );
        return kind === "amplifier" || kind === "preamplifier" ? (
          <path key={p.part} d={`M${x(p.column) - 7} ${middle - 7}l14 7l-14 7z`} {...edge} />
        ) : (
          <rect key={p.part} x={x(p.column) - 6} y={middle - 6} width="12" height="12" {...edge} />
        );
      })}
      {outlets.map((p) => {
        const line = plan.outlets.find((o) => o.part === p.part);
        return line?.groups.map((g, i) => (
          <g
            key={`${p.part}${g.group}`}
            transform={`translate(${WIDE - GAUGES / (line.groups.length > 1 ? 1 : 1.6) + i * 50} ${y(p.leaf ? p.top : ownRow(p)) - Math.min(row, 14) / 2})`}
          >
            <BracketGauge gauge={g.low} second={g.high} width={46} height={Math.min(row, 14)} />
          </g>
        ));
      })}
    </svg>
  );
}
