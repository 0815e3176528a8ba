import { BracketGauge } from "../../instruments/BracketGauge";
import { StateMark, WORD } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import type { Catalogue, GroupGauge, OutletRow, PartView, Place } from "../../service/client";
import { useJob } from "../../service/job";
import { useShown } from "../../shell/showing";
import { shown } from "../../shell/units";
import { EarthFoot, Glyph } from "./Glyph";
import { DROP_PX, type Geometry, geometryOf, neighbour, routeTo, wireWidth } from "./geometry";

type Props = {
  catalogue: Catalogue;
  selected: string | null;
  onSelect: (part: string) => void;
  onKey: (key: string) => void;
};

/** The run: laid out by the service, drawn here; wires lie level and never cross. */
export function Run({ catalogue, selected, onSelect, onKey }: Props) {
  const { view } = useJob();
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const coax = view.answers.coax;
  const at = useShown();
  const links = view.job.links ?? [];
  const parts = new Map(coax.parts.map((p) => [p.id, p]));
  const places = coax.layout.places;
  const byPart = new Map(places.map((p) => [p.part, p]));
  const drops = links.filter((k) => byPart.get(k.to_part)?.leaf);
  const g = geometryOf(
    width,
    coax.layout.columns,
    coax.layout.rows,
    Math.max(0, ...drops.map((d) => d.length_m)),
  );
  const route = selected ? routeTo(selected, links) : new Set<string>();
  const keys = (e: React.KeyboardEvent) => {
    if (e.target instanceof HTMLInputElement || e.ctrlKey || e.metaKey) return;
    if (e.key.startsWith("Arrow") && selected) {
      e.preventDefault();
      const next = neighbour(e.key, selected, places, links, coax.parts);
      if (next) {
        onSelect(next);
        requestAnimationFrame(() => document.getElementById(`run-${next}`)?.focus());
      }
    } else if (["Enter", "a", "b", "r", "Delete"].includes(e.key)) {
      e.preventDefault();
      onKey(e.key);
    }
  };
  return (
    <div ref={ref} className="overflow-x-auto">
      <svg width={g.width} height={g.height} onKeyDown={keys} className="block">
        <Head g={g} lanes={coax.lanes.map((l) => l.group)} />
        {links.map((k) => {
          const from = byPart.get(k.from_part);
          const to = byPart.get(k.to_part);
          if (!from || !to) return null;
          const y = g.y(to.in_rows[k.to_port ?? 0] ?? to.top);
          const x1 = exitX(g, from, parts.get(from.part));
          const x2 = to.leaf
            ? leafX(g, from, k.length_m, parts.get(from.part))
            : entryX(g, to, parts.get(to.part));
          const w = wireWidth(catalogue.cables[k.cable]?.diameter_mm ?? 7);
          const room = x2 - x1;
          return (
            <g key={k.id}>
              {route.has(k.id) && (
                <line x1={x1} x2={x2} y1={y} y2={y} stroke="var(--color-halo)" strokeWidth="11" />
              )}
              <line x1={x1} x2={x2} y1={y} y2={y} stroke="var(--color-copper)" strokeWidth={w} />
              {k.length_m >= 1 && room > 14 && (
                <text
                  x={x1 + 4}
                  y={y - 5}
                  fontSize="12"
                  className="mono"
                  style={{ fill: "var(--color-quiet)" }}
                >
                  {shownLength(k.length_m, at.units)}
                </text>
              )}
            </g>
          );
        })}
        {places.map((p) => {
          const part = parts.get(p.part);
          return part ? (
            <Node
              key={p.part}
              place={p}
              part={part}
              g={g}
              selected={selected === p.part}
              onSelect={onSelect}
              outlet={coax.outlets.find((o) => o.part === p.part)}
              feed={links.find((k) => k.to_part === p.part)}
              fromBar={exitOf(g, byPart, parts, links, p.part)}
            />
          ) : null;
        })}
      </svg>
    </div>
  );
}

function shownLength(m: number, units: string) {
  return units === "us" ? (m / 0.3048).toFixed(0) : m % 1 ? m.toFixed(1) : m.toFixed(0);
}

const isBar = (part?: PartView) =>
  part != null &&
  ["grounding_block", "arrester", "splitter", "tap", "multiswitch"].includes(part.kind);
const barWidth = (part?: PartView) =>
  part?.kind === "multiswitch" || part?.kind === "splitter" ? 30 : 8;

function exitX(g: Geometry, p: Place, part?: PartView) {
  return g.x(p.column) + (isBar(part) ? barWidth(part) / 2 : part?.kind === "antenna" ? 6 : 12);
}
function entryX(g: Geometry, p: Place, part?: PartView) {
  return g.x(p.column) - (isBar(part) ? barWidth(part) / 2 : 12);
}
function leafX(g: Geometry, from: Place, length: number, part?: PartView) {
  return Math.min(Math.max(exitX(g, from, part), g.barX) + 16 + length * DROP_PX, g.tableX - 14);
}
function exitOf(
  g: Geometry,
  byPart: Map<string, Place>,
  parts: Map<string, PartView>,
  links: { from_part: string; to_part: string; length_m: number }[],
  part: string,
) {
  const k = links.find((l) => l.to_part === part);
  const from = k && byPart.get(k.from_part);
  return k && from ? leafX(g, from, k.length_m, parts.get(k.from_part)) : g.barX;
}

function Head({ g, lanes }: { g: Geometry; lanes: string[] }) {
  const at = useShown();
  const unit = shown(0, "dbuv", 0, at).unit;
  return (
    <g fontSize="13">
      {lanes.includes("terrestrial") && (
        <text x={g.tableX + 118} y="20">
          <tspan fontWeight="700">Terrestrial</tspan>, {unit}
        </text>
      )}
      {lanes.includes("satellite") && (
        <text x={g.tableX + 234} y="20">
          <tspan fontWeight="700">Satellite IF</tspan>, {unit}
        </text>
      )}
      <line x1="0" x2={g.width} y1="30" y2="30" stroke="var(--color-line)" />
    </g>
  );
}

type NodeProps = {
  place: Place;
  part: PartView;
  g: Geometry;
  selected: boolean;
  onSelect: (part: string) => void;
  outlet?: OutletRow;
  feed?: { length_m: number };
  fromBar: number;
};

function Node(p: NodeProps) {
  const { part, place, selected, onSelect } = p;
  const state = p.outlet?.state ?? part.state;
  const label = p.outlet
    ? `Outlet ${part.name}, ${WORD[state]}`
    : `${part.name}, ${part.type_name}`;
  const hit = hitBox(p);
  return (
    <g>
      {place.leaf ? <Leaf {...p} state={state} /> : <Trunk {...p} />}
      <rect
        id={`run-${part.id}`}
        role="button"
        tabIndex={selected ? 0 : -1}
        aria-pressed={selected}
        aria-label={label}
        {...hit}
        rx="2"
        fill="transparent"
        className="cursor-pointer"
        onClick={() => onSelect(part.id)}
        onKeyDown={(e) => e.key === " " && onSelect(part.id)}
      />
    </g>
  );
}

/** Where a node takes clicks and shows focus. */
function hitBox({ place, part, g, fromBar }: NodeProps) {
  const x = g.x(place.column);
  const [top, bottom] = [g.y(place.top), g.y(place.bottom)];
  if (place.leaf && part.kind === "terminator")
    return { x: fromBar - 6, y: top - 14, width: 76, height: 28 };
  if (place.leaf)
    return { x: g.tableX - 20, y: top - 15, width: g.width - g.tableX + 16, height: 30 };
  if (isBar(part)) return { x: x - 20, y: top - 16, width: 40, height: bottom - top + 32 };
  const wide = part.kind === "antenna" || part.kind === "lnb";
  const middle = (top + bottom) / 2;
  return { x: x - (wide ? 68 : 22), y: middle - 44, width: wide ? 86 : 44, height: 88 };
}

function Leaf({
  part,
  place,
  g,
  selected,
  outlet,
  fromBar,
  state,
}: NodeProps & { state: OutletRow["state"] }) {
  const at = useShown();
  const y = g.y(place.top);
  if (part.kind === "terminator")
    return (
      <g>
        <rect x={fromBar} y={y - 6} width="10" height="12" fill="var(--color-ink)" />
        <text x={fromBar + 18} y={y + 4} fontSize="12" style={{ fill: "var(--color-quiet)" }}>
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
      <line x1={fromBar} x2={g.tableX - 2} y1={y} y2={y} stroke="var(--color-line)" />
      <circle
        cx={fromBar}
        cy={y}
        r="5"
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
        strokeWidth="1.8"
      />
      <text x={g.tableX} y={y + 5} fontSize="15">
        {part.name.length > 15 ? `${part.name.slice(0, 14)}…` : part.name}
      </text>
      {(outlet?.groups ?? []).map((group) => {
        const x = g.tableX + (group.group === "terrestrial" ? 118 : 234);
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
      })}
      <g transform={`translate(${g.tableX + 350} ${y - 9})`}>
        <StateMark state={state} size={18} />
      </g>
      <text
        x={g.tableX + 373}
        y={y + 5}
        fontSize="13"
        fontWeight="600"
        style={{
          fill: `var(--color-${{ in: "verdigris", near: "ochre", out: "brick", todo: "quiet" }[state]})`,
        }}
      >
        {WORD[state]}
      </text>
    </g>
  );
}

function Trunk({ part, place, g, selected }: NodeProps) {
  const { view } = useJob();
  const x = g.x(place.column);
  const top = g.y(place.top);
  const bottom = g.y(place.bottom);
  const bar = isBar(part);
  const w = barWidth(part);
  const middle = (top + bottom) / 2;
  const below = part.kind === "lnb";
  const tall = bottom - top > 300;
  const raised = place.column % 2 === 1 && !tall ? 58 : 0;
  const labelY = below ? bottom + 60 : (bar ? top - 52 : top - 58) - raised;
  const aim = view.answers.aim.aims.find(
    (a) => (view.job.parts ?? []).find((q) => q.id === part.id)?.antenna === a.antenna,
  );
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
            place.out_rows.map((r, i) =>
              r == null ? null : (
                <text
                  key={i}
                  x={x + w / 2 - 4}
                  y={g.y(r) + 4}
                  textAnchor="end"
                  fontSize="12"
                  className="mono"
                  style={{ fill: "var(--color-quiet)" }}
                >
                  {i + 1}
                </text>
              ),
            )}
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
          <Glyph kind={part.kind} elevation={aim?.elevation_deg} />
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
          style={{ fill: "var(--color-ochre)" }}
        >
          {part.free_outputs.length} open
        </text>
      )}
      <TrunkLabel part={part} x={x} y={labelY} anchor={place.column === 0 ? "start" : "middle"} />
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
