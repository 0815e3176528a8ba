import { useRef } from "react";
import { WORD } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import type { Catalogue, PartPlace, PartView } from "../../service/client";
import { useJob } from "../../service/job";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";
import { FoldLine, FoldRow } from "./Folds";
import {
  DROP_PX,
  type Geometry,
  geometryOf,
  neighbour,
  routeTo,
  STRAND,
  strandsOf,
  wireWidth,
} from "./geometry";
import { barWidth, isBar, Leaf, type NodeProps, ownRow, Trunk, TrunkName } from "./nodes";
import { useDrag } from "./useDrag";
import { useFolds } from "./useFolds";
import { inSpan, useSpan } from "./useSpan";

type Props = {
  catalogue: Catalogue;
  selected: string | null;
  /** What somebody chose to see: folded branches open for it. */
  asked: string | null;
  onSelect: (part: string) => void;
  onKey: (key: string) => void;
  /** A part was dropped on another one. */
  onLead: (part: string, after: string) => void;
};

/** The run: laid out by the service, drawn here; wires lie level and never cross. */
export function Run({ catalogue, selected, asked, onSelect, onKey, onLead }: Props) {
  const { view } = useJob();
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const coax = view.answers.coax;
  const at = useShown();
  const links = view.job.links ?? [];
  const parts = new Map(coax.parts.map((p) => [p.id, p]));
  const folds = useFolds(coax.layout.places, links, coax.parts, coax.outlets, asked);
  const { places } = folds;
  const byPart = new Map(places.map((p) => [p.part, p]));
  const drops = links.filter((k) => byPart.get(k.to_part)?.leaf);
  const g = geometryOf(
    width,
    folds.columns,
    folds.rows,
    Math.max(0, ...drops.map((d) => d.length_m)),
    places,
  );
  const strands = strandsOf(links, byPart);
  const route = selected ? routeTo(selected, links) : new Set<string>();
  const outlets = new Map(coax.outlets.map((o) => [o.part, o]));
  const feeds = new Map([...links].reverse().map((k) => [k.to_part, k]));
  const picture = useRef<SVGSVGElement>(null);
  const { line, ...drag } = useDrag(onLead);
  // Of a house with hundreds of outlets only what is near the screen is drawn.
  const span = useSpan(picture, g.height > 3000);
  const near = (p: PartPlace) => inSpan(span, g.y(p.top) - 60, g.y(p.bottom) + 60);
  const keys = (e: React.KeyboardEvent) => {
    if (e.target instanceof HTMLInputElement || e.ctrlKey || e.metaKey) return;
    if (e.key.startsWith("Arrow") && selected) {
      e.preventDefault();
      const next = neighbour(e.key, selected, places, links, coax.parts);
      if (next) {
        onSelect(next);
        requestAnimationFrame(() => document.getElementById(`run-${next}`)?.focus());
      }
    } else if (e.key === "f" && folds.canFold(selected)) {
      e.preventDefault();
      folds.toggle(selected!);
    } else if (["Enter", "a", "b", "c", "m", "r", "Delete"].includes(e.key)) {
      e.preventDefault();
      onKey(e.key);
    }
  };
  return (
    <div ref={ref} className="overflow-x-auto">
      <FoldLine folds={folds} selected={selected} />
      <svg
        ref={picture}
        width={g.width}
        height={g.height}
        onKeyDown={keys}
        className="block"
        {...drag}
      >
        <Head g={g} channels={coax.channels.map((l) => l.group)} />
        {links.map((k) => {
          const from = byPart.get(k.from_part);
          const to = byPart.get(k.to_part);
          if (!from || !to) return null;
          const strand = strands.get(k.id);
          const y = g.y(to.in_rows[k.to_port ?? 0] ?? to.top) + (strand?.aside ?? 0);
          if (!inSpan(span, y, y)) return null;
          const x1 = exitX(g, from, parts.get(from.part));
          const x2 = to.leaf
            ? leafX(g, from, k.length_m, parts.get(from.part))
            : entryX(g, to, parts.get(to.part));
          const thick = wireWidth(catalogue.cables[k.cable]?.diameter_mm ?? 7);
          const w = strand ? Math.min(thick, STRAND - 1) : thick;
          const room = x2 - x1;
          return (
            <g key={k.id}>
              {route.has(k.id) && !strand?.behind && (
                <line
                  x1={x1}
                  x2={x2}
                  y1={y - (strand?.aside ?? 0)}
                  y2={y - (strand?.aside ?? 0)}
                  stroke="var(--color-halo)"
                  strokeWidth={strand ? 22 : 11}
                />
              )}
              <line x1={x1} x2={x2} y1={y} y2={y} stroke="var(--color-copper)" strokeWidth={w} />
              {k.length_m >= 1 && room > 14 && !strand?.behind && (
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
        {folds.folds.map((f) => (
          <FoldRow
            key={f.part}
            fold={f}
            g={g}
            lead={exitX(g, byPart.get(f.part)!, parts.get(f.part))}
            name={parts.get(f.part)?.name ?? ""}
            unfold={() => folds.toggle(f.part)}
          />
        ))}
        {places.map((p) => {
          const part = parts.get(p.part);
          return part && near(p) ? (
            <Node
              key={p.part}
              place={p}
              part={part}
              g={g}
              selected={selected === p.part}
              onSelect={onSelect}
              outlet={outlets.get(p.part)}
              feed={feeds.get(p.part)}
              folded={folds.folded.has(p.part)}
              fromBar={exitOf(g, byPart, parts, feeds.get(p.part))}
            />
          ) : null;
        })}
        {line && (
          <line
            x1={line.x}
            y1={line.y}
            x2={line.toX}
            y2={line.toY}
            stroke="var(--color-copper)"
            strokeWidth="2"
            strokeDasharray="6 4"
            pointerEvents="none"
          />
        )}
        <g pointerEvents="none">
          {places.map((p) => {
            const part = parts.get(p.part);
            return part &&
              near(p) &&
              !p.leaf &&
              part.kind !== "plate" &&
              !folds.folded.has(p.part) ? (
              <TrunkName key={p.part} place={p} part={part} g={g} />
            ) : null;
          })}
        </g>
      </svg>
    </div>
  );
}

function shownLength(m: number, units: string) {
  return units === "us" ? (m / 0.3048).toFixed(0) : m % 1 ? m.toFixed(1) : m.toFixed(0);
}

function exitX(g: Geometry, p: PartPlace, part?: PartView) {
  return (
    g.x(p.column) +
    (isBar(part)
      ? barWidth(part) / 2
      : part?.kind === "antenna"
        ? 6
        : p.in_rows.length > 1
          ? 19
          : 12)
  );
}
function entryX(g: Geometry, p: PartPlace, part?: PartView) {
  return g.x(p.column) - (isBar(part) ? barWidth(part) / 2 : p.in_rows.length > 1 ? 19 : 12);
}
function leafX(g: Geometry, from: PartPlace, length: number, part?: PartView) {
  return Math.min(Math.max(exitX(g, from, part), g.barX) + 16 + length * DROP_PX, g.tableX - 14);
}
function exitOf(
  g: Geometry,
  byPart: Map<string, PartPlace>,
  parts: Map<string, PartView>,
  k: { from_part: string; length_m: number } | undefined,
) {
  const from = k && byPart.get(k.from_part);
  return k && from ? leafX(g, from, k.length_m, parts.get(k.from_part)) : g.barX;
}

function Head({ g, channels }: { g: Geometry; channels: string[] }) {
  const at = useShown();
  const unit = shown(0, "dbuv", 0, at).unit;
  const terrestrial = channels.includes("terrestrial");
  const cable = channels.includes("cable");
  const first = [terrestrial && "Terrestrial", cable && (terrestrial ? "cable" : "Company's line")];
  return (
    <g fontSize="13">
      {first.some(Boolean) && (
        <text x={g.tableX + 118} y="20">
          <tspan fontWeight="700">{first.filter(Boolean).join(" or ")}</tspan>, {unit}
        </text>
      )}
      {channels.includes("satellite") && (
        <text x={g.tableX + 234} y="20">
          <tspan fontWeight="700">Satellite IF</tspan>, {unit}
        </text>
      )}
      <line x1="0" x2={g.width} y1="30" y2="30" stroke="var(--color-line)" />
    </g>
  );
}

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
      {!place.leaf && p.outlet && (
        <Leaf
          {...p}
          place={{ ...place, top: ownRow(place) }}
          fromBar={p.g.barX}
          state={state}
          lead={p.g.x(place.column) + 4}
        />
      )}
      <rect
        id={`run-${part.id}`}
        data-run={part.id}
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
