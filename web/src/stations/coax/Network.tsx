import { memo, useEffect, useMemo, useRef } from "react";
import { WORD } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import type { Catalogue, PartPlace, PartView } from "../../service/client";
import { useView, useWrites } from "../../service/job";
import { useSettings } from "../../service/settings";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";
import { FoldLine, FoldRow } from "./Folds";
import {
  DROP_PX,
  type Geometry,
  geometryOf,
  neighbour,
  STRAND,
  strandsOf,
  wireWidth,
} from "./geometry";
import { barWidth, crowdOf, isBar, Leaf, type NodeProps, ownRow, Trunk, TrunkName } from "./nodes";
import { useDrag } from "./useDrag";
import { type Coax, useFolds } from "./useFolds";
import { usePartDetail } from "./usePartDetail";
import { inSpan, useSpan } from "./useSpan";

type Props = {
  catalogue: Catalogue;
  selected: string | null;
  /** What somebody chose to see: folded branches open for it. */
  asked: string | null;
  /** A key that was pressed on a part. */
  onKey: (key: string, part: string) => void;
  /** A part was dropped on another one. */
  onFeed: (part: string, after: string) => void;
  /** The part that is to have the focus, a new object each time. */
  focus: { part: string } | null;
};

const ACTS = ["Enter", "a", "b", "c", "m", "r", "Delete"];

/** What of the answer the picture is drawn from: the same object while none of it changed. */
function useCoax(): Coax {
  return useView((view) => ({
    places: view.answers.coax.layout.places,
    branches: view.answers.coax.branches,
    links: view.job.links ?? [],
    parts: view.answers.coax.parts,
    outlets: view.answers.coax.outlets,
  }));
}

/** The distribution network: laid out by the service, drawn here; cables lie level and never cross. */
export const Network = memo(function Network(p: Props) {
  const { catalogue, selected, asked, onKey, onFeed, focus } = p;
  const { select } = useWrites();
  const letters = useSettings((s) => s.keys === "on");
  const [ref, width] = useWidth<HTMLDivElement>(900);
  const coax = useCoax();
  const { links, outlets: served } = coax;
  const channels = useView((view) => view.answers.coax.channels);
  const dishes = useElevations();
  const at = useShown();
  const parts = useMemo(() => new Map(coax.parts.map((q) => [q.id, q])), [coax.parts]);
  const folds = useFolds(coax, asked);
  const { places, columns, rows } = folds;
  const byPart = useMemo(() => new Map(places.map((q) => [q.part, q])), [places]);
  const longest = useMemo(
    () => Math.max(0, ...links.map((k) => (byPart.get(k.to_part)?.leaf ? k.length_m : 0))),
    [links, byPart],
  );
  // One geometry for all parts: another one draws all of them anew.
  const g = useMemo(
    () => geometryOf(width, columns, rows, longest, places),
    [width, columns, rows, longest, places],
  );
  const strands = useMemo(() => strandsOf(links, byPart), [links, byPart]);
  const crowd = useMemo(() => crowdOf(places, parts, g), [places, parts, g]);
  const detail = usePartDetail(selected);
  const route = useMemo(() => new Set(detail?.route), [detail?.route]);
  const outlets = useMemo(() => new Map(served.map((o) => [o.part, o])), [served]);
  const feeds = useMemo(() => new Map([...links].reverse().map((k) => [k.to_part, k])), [links]);
  const picture = useRef<SVGSVGElement>(null);
  const { line, ...drag } = useDrag(onFeed);
  // Of a house with hundreds of outlets only what is near the screen is drawn.
  const span = useSpan(picture, g.height > 3000);
  const near = (q: PartPlace) => inSpan(span, g.y(q.top) - 60, g.y(q.bottom) + 60);
  useFocus(focus, picture, byPart, g, span);
  const keys = (e: React.KeyboardEvent) => {
    const part = (e.target as Element).closest("[data-part]")?.getAttribute("data-part");
    if (!part || e.ctrlKey || e.metaKey || e.altKey) return;
    if (e.key.startsWith("Arrow")) {
      e.preventDefault();
      const next = neighbour(e.key, part, places);
      if (next) {
        // At once, not with the next frame: a second key may come before it, and acts on what has the focus.
        const there = document.getElementById(`network-${next}`);
        there?.focus();
        select(next);
        if (!there)
          requestAnimationFrame(() => document.getElementById(`network-${next}`)?.focus());
      }
      return;
    }
    if (e.key.length === 1 && !letters) return;
    if (e.key === "f" && folds.canFold(part)) folds.toggle(part);
    else if (ACTS.includes(e.key)) onKey(e.key, part);
    else return;
    e.preventDefault();
  };
  return (
    <div ref={ref} data-network className="overflow-x-auto">
      <FoldLine folds={folds} selected={selected} />
      <svg
        ref={picture}
        width={g.width}
        height={g.height}
        onKeyDown={keys}
        className="block"
        {...drag}
      >
        <Head g={g} channels={channels.map((l) => l.group)} />
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
                  style={{ fill: "var(--color-muted)" }}
                >
                  {lengthOn(k.length_m, at)}
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
              onSelect={select}
              outlet={outlets.get(p.part)}
              crowded={crowd.has(p.part)}
              elevation={dishes[p.part]}
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
              <TrunkName
                key={p.part}
                place={p}
                part={part}
                g={g}
                crowded={crowd.has(p.part)}
                places={coax.places}
              />
            ) : null;
          })}
        </g>
      </svg>
    </div>
  );
});

/** How high the dish of each LNB looks [deg]. */
function useElevations(): Record<string, number> {
  return useView((view) => {
    const up = new Map(view.answers.aim?.aims.map((a) => [a.antenna, a.elevation_deg]));
    const found = (view.job.parts ?? []).flatMap((q) => {
      const elevation = q.antenna ? up.get(q.antenna) : undefined;
      return elevation === undefined ? [] : [[q.id, elevation] as const];
    });
    return Object.fromEntries(found);
  });
}

/** Gives a part the focus once it is drawn; one that is far away is brought on the screen first. */
function useFocus(
  focus: { part: string } | null,
  picture: React.RefObject<SVGSVGElement | null>,
  places: Map<string, PartPlace>,
  g: Geometry,
  span: unknown,
) {
  const done = useRef<object | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another stretch that is drawn is another chance
  useEffect(() => {
    const place = focus && places.get(focus.part);
    if (!place || done.current === focus) return;
    const node = document.getElementById(`network-${focus.part}`);
    if (node) {
      done.current = focus;
      node.focus();
      // A box that is just closing holds the page for one frame more.
      if (document.activeElement !== node) requestAnimationFrame(() => node.focus());
      return;
    }
    const top = picture.current?.getBoundingClientRect().top ?? 0;
    window.scrollBy({ top: top + g.y(place.top) - window.innerHeight / 2 });
  }, [focus, places, g, span, picture]);
}

/** A length on its cable: whole feet, or metres as exact as they are known. */
function lengthOn(m: number, at: ReturnType<typeof useShown>) {
  return shown(m, "m", at.units === "metric" && m % 1 ? 1 : 0, at).figure;
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

const Node = memo(function Node(p: NodeProps) {
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
        id={`network-${part.id}`}
        data-part={part.id}
        role="button"
        tabIndex={selected ? 0 : -1}
        aria-pressed={selected}
        aria-label={label}
        {...hit}
        rx="2"
        fill="transparent"
        className="cursor-pointer"
        // What has the focus is what the keys act on.
        onFocus={() => onSelect(part.id)}
        onClick={(e) => {
          e.currentTarget.focus();
          onSelect(part.id);
        }}
        onKeyDown={(e) => e.key === " " && onSelect(part.id)}
      />
    </g>
  );
});

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
