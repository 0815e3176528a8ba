import { memo } from "react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { StateMark, WORD } from "../../instruments/StateMark";
import type { GroupGauge, OutletView, PartPlace, PartView } from "../../service/client";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";
import { EarthFoot, Glyph } from "./Glyph";
import { type Geometry, TALL_ROWS } from "./geometry";

export type NodeProps = {
  place: PartPlace;
  part: PartView;
  g: Geometry;
  selected: boolean;
  onSelect: (part: string) => void;
  outlet?: OutletView;
  fromBar: number;
  /** Its branch stands as one line, with its name there. */
  folded?: boolean;
  /** Several LNBs stand close: then the dish is left out and the names stand beside. */
  crowded: boolean;
  elevation?: number;
};

const BARS = ["grounding_block", "arrester", "splitter", "tap", "multiswitch", "combiner", "plate"];
export const isBarKind = (kind: string) => BARS.includes(kind);
export const isBar = (part?: PartView) => part != null && isBarKind(part.kind);
/** Of a plate from which the line goes on, the row of its outlet. */
export const ownRow = (place: PartPlace) => place.out_rows.at(-1) ?? place.top;
export const barWidth = (part?: PartView) =>
  part?.kind === "multiswitch" || part?.kind === "splitter" ? 30 : 8;

export function Leaf({
  part,
  place,
  g,
  selected,
  outlet,
  fromBar,
  state,
  lead,
}: NodeProps & { state: OutletView["state"]; lead?: number }) {
  const y = g.y(place.top);
  if (part.kind === "terminator")
    return (
      <g>
        <rect x={fromBar} y={y - 6} width="10" height="12" fill="var(--color-ink)" />
        <text x={fromBar + 18} y={y + 4} fontSize="12" style={{ fill: "var(--color-muted)" }}>
          75 Ω
        </text>
        {selected && (
          <rect
            x={fromBar - 6}
            y={y - 12}
            width="70"
            height="24"
            fill="none"
            stroke="var(--color-ink)"
            strokeWidth="2"
          />
        )}
      </g>
    );
  return (
    <g>
      <rect
        x={g.tableX - 20}
        y={y - 15}
        width={g.width - g.tableX + 16}
        height="30"
        rx="2"
        fill={selected ? "var(--color-field)" : "transparent"}
        stroke={selected ? "var(--color-ink)" : "none"}
        strokeWidth="2"
      />
      {/* A plate from which the line goes on stands in the run; its outlet is told here. */}
      <line x1={lead ?? fromBar} x2={g.tableX - 2} y1={y} y2={y} stroke="var(--color-line)" />
      {lead == null && (
        <circle
          cx={fromBar}
          cy={y}
          r="5"
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
          strokeWidth="1.8"
        />
      )}
      <text x={g.tableX} y={y + 5} fontSize="15">
        {part.name.length > 15 ? `${part.name.slice(0, 14)}…` : part.name}
      </text>
      <Gauges groups={outlet?.groups ?? []} g={g} y={y} />
      <g transform={`translate(${g.tableX + 350} ${y - 9})`}>
        <StateMark state={state} size={18} />
      </g>
      <text
        x={g.tableX + 373}
        y={y + 5}
        fontSize="13"
        fontWeight="600"
        style={{
          fill: `var(--color-${{ ok: "ok", marginal: "marginal", fail: "fail", unknown: "muted" }[state]})`,
        }}
      >
        {WORD[state]}
      </text>
    </g>
  );
}

/** What reaches a place, a gauge for each band. */
export function Gauges({ groups, g, y }: { groups: GroupGauge[]; g: Geometry; y: number }) {
  const at = useShown();
  return groups.map((group) => {
    // What comes from an own antenna and what from a company never share a plate.
    const x = g.tableX + (group.group === "satellite" ? 234 : 118);
    return (
      <g key={group.group}>
        <g transform={`translate(${x} ${y - 8})`}>
          <BracketGauge gauge={group.low} second={group.high} width={60} />
        </g>
        <text x={x + 104} y={y + 5} textAnchor="end" className="mono" fontSize="13">
          {shown(group.least_dbuv, "dbuv", 1, at).figure}
        </text>
      </g>
    );
  });
}

/** LNBs of one dish that stand close to one another. */
export function crowdOf(places: PartPlace[], parts: Map<string, PartView>, g: Geometry) {
  const lnbs = places.filter((p) => parts.get(p.part)?.kind === "lnb");
  const close = (a: PartPlace, b: PartPlace) =>
    a !== b && a.column === b.column && Math.abs(g.y(a.top) - g.y(b.top)) < 70;
  return new Set(lnbs.filter((a) => lnbs.some((b) => close(a, b))).map((p) => p.part));
}

/** The name of a part and its levels: drawn over all glyphs, so that no neighbour hides it. */
export const TrunkName = memo(function TrunkName({
  part,
  place,
  g,
  crowded,
  places,
}: Pick<NodeProps, "part" | "place" | "g" | "crowded"> & { places: PartPlace[] }) {
  const x = g.x(place.column);
  const top = g.y(place.top);
  const bottom = g.y(place.bottom);
  const bar = isBar(part);
  const below = part.kind === "lnb";
  const tall = place.bottom - place.top >= TALL_ROWS;
  const raised = place.column % 2 === 1 && !tall ? 58 : 0;
  const lower = !tall && place.top > g.topRow + 0.5;
  const over = (bar ? top - 52 : top - 58) - raised;
  // Of neighbours below one another every second one has its words above, where nothing runs there.
  const stepped =
    lower &&
    place.column % 2 === 1 &&
    !places.some(
      (p) =>
        p.part !== part.id &&
        Math.abs(p.column - place.column) <= 1 &&
        g.y(p.bottom) < top - 4 &&
        g.y(p.bottom) > top - 110,
    );
  const under = lower && !stepped;
  const labelY = below
    ? bottom + 60
    : under
      ? bottom + (bar ? 52 : 34)
      : stepped
        ? over + raised + 14
        : over;
  return crowded ? (
    <Beside part={part} x={x - 16} y={(top + bottom) / 2} />
  ) : (
    <TrunkLabel part={part} x={x} y={labelY} anchor={place.column === 0 ? "start" : "middle"} />
  );
});

/** One device for several lines: its glyph in each of them, in one housing. */
function Lines({ part, rows }: { part: PartView; rows: number[] }) {
  const top = Math.min(...rows) - 17;
  return (
    <>
      <rect
        x={-19}
        y={top}
        width={38}
        height={Math.max(...rows) + 17 - top}
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
      />
      {rows.map((y) => (
        <g key={y} transform={`translate(0 ${y})`}>
          <path d="M-19 0H19" stroke="var(--color-copper)" strokeWidth="3" />
          <Glyph kind={part.kind} />
        </g>
      ))}
    </>
  );
}

/** The numbers of a part's outputs by the row that they leave on. Of lines that leave together how many
 * they are; of a folded part, whose lines all do, nothing. */
function portsByRow(rows: (number | null)[]): [number, string][] {
  const found = new Map<number, number[]>();
  rows.forEach((r, i) => {
    if (r != null) found.set(r, [...(found.get(r) ?? []), i + 1]);
  });
  if (found.size === 1 && rows.length > 1) return [];
  return [...found].map(([r, n]) => [r, n.length > 1 ? `×${n.length}` : `${n[0]}`]);
}

export function Trunk({ part, place, g, selected, crowded, elevation }: NodeProps) {
  const x = g.x(place.column);
  const top = g.y(place.top);
  const bottom = g.y(place.bottom);
  const bar = isBar(part);
  const w = barWidth(part);
  const middle = (top + bottom) / 2;
  const below = part.kind === "lnb";
  return (
    <g>
      {bar ? (
        <>
          <rect
            x={x - w / 2}
            y={top - 14}
            width={w}
            height={bottom - top + 28}
            fill="var(--color-sheet)"
            stroke="var(--color-ink)"
            strokeWidth={selected ? 3 : 1.5}
          />
          {w > 10 &&
            portsByRow(place.out_rows).map(([r, ports]) => (
              <text
                key={r}
                x={x + w / 2 - 4}
                y={g.y(r) + 4}
                textAnchor="end"
                fontSize="12"
                className="mono"
                style={{ fill: "var(--color-muted)" }}
              >
                {ports}
              </text>
            ))}
          {(part.kind === "grounding_block" || part.kind === "arrester") && (
            <g transform={`translate(${x} ${bottom + 14})`}>
              <EarthFoot />
            </g>
          )}
        </>
      ) : (
        <g transform={`translate(${x} ${middle})`}>
          {below &&
            place.out_rows.map(
              (r, i) =>
                r != null && (
                  <path
                    key={i}
                    d={`M8 ${Math.max(-8, Math.min(8, (g.y(r) - middle) / 8))}L12 ${g.y(r) - middle}`}
                    stroke="var(--color-copper)"
                    strokeWidth="2.5"
                  />
                ),
            )}
          {place.in_rows.length > 1 ? (
            <Lines part={part} rows={place.in_rows.map((r) => g.y(r) - middle)} />
          ) : (
            <Glyph kind={part.kind} elevation={elevation} bare={crowded} />
          )}
          {selected && (
            <rect
              x={part.kind === "antenna" || below ? -64 : -18}
              y="-42"
              width={part.kind === "antenna" || below ? 80 : 36}
              height="84"
              fill="none"
              stroke="var(--color-ink)"
              strokeWidth="2"
            />
          )}
        </g>
      )}
      {part.free_outputs.length > 0 && part.kind !== "lnb" && (
        <text
          x={x}
          y={bottom + (bar ? 44 : 30)}
          textAnchor="middle"
          fontSize="12"
          style={{ fill: "var(--color-marginal)" }}
        >
          {part.free_outputs.length} open
        </text>
      )}
    </g>
  );
}

function Beside({ part, x, y }: { part: PartView; x: number; y: number }) {
  const at = useShown();
  const least = part.groups[0]?.least_dbuv;
  return (
    <g>
      <text x={x} y={y - 1} textAnchor="end" fontSize="12" fontWeight="700">
        {part.name.length > 9 ? `${part.name.slice(0, 8)}…` : part.name}
      </text>
      {least != null && (
        <text x={x} y={y + 12} textAnchor="end" className="mono" fontSize="12">
          {shown(least, "dbuv", 1, at).figure}
        </text>
      )}
    </g>
  );
}

function TrunkLabel({
  part,
  x,
  y,
  anchor,
}: {
  part: PartView;
  x: number;
  y: number;
  anchor: "start" | "middle";
}) {
  const lx = anchor === "start" ? Math.max(x - 64, 4) : x;
  return (
    <g>
      <text
        x={lx}
        y={y}
        textAnchor={anchor}
        fontSize="13"
        fontWeight="700"
        paintOrder="stroke"
        stroke="var(--color-sheet)"
        strokeWidth="3"
      >
        {part.name.length > 16 ? `${part.name.slice(0, 15)}…` : part.name}
      </text>
      {part.groups.slice(0, 2).map((group, i) => (
        <Small
          key={group.group}
          group={group}
          x={anchor === "start" ? lx : lx - 42}
          y={y + 6 + i * 16}
        />
      ))}
    </g>
  );
}

function Small({ group, x, y }: { group: GroupGauge; x: number; y: number }) {
  const at = useShown();
  const limited = group.low.low != null || group.low.high != null;
  return (
    <g transform={`translate(${x} ${y})`}>
      {limited && <BracketGauge gauge={group.low} second={group.high} width={42} height={15} />}
      <text
        x={limited ? 84 : 0}
        y="12"
        textAnchor={limited ? "end" : "start"}
        className="mono"
        fontSize="12"
        paintOrder="stroke"
        stroke="var(--color-sheet)"
        strokeWidth="3"
      >
        {shown(group.least_dbuv, "dbuv", 1, at).figure}
      </text>
    </g>
  );
}
