import { useRef, useState } from "react";
import type { Neighbour, Silhouette, TargetSight } from "../service/client";
import { useShown } from "../shell/showing";
import { figureOf } from "../shell/units";
import { COLOUR } from "./StateMark";
import { useWidth } from "./useWidth";

const PX = 5;
const EARTH = 44;
const CARDINAL: Record<number, string> = { 0: "N", 90: "E", 180: "S", 270: "W" };

type Props = {
  targets: TargetSight[];
  neighbours?: Neighbour[];
  skyline: Silhouette[];
  later?: Silhouette[];
  until?: number;
  previewed?: Silhouette[];
  sun?: [number, number, number][];
  arc: [number, number, number][];
  keepClear: number;
  declination: number | null;
  label: string;
  onTop?: (id: string, top_deg: number) => void;
  children?: React.ReactNode;
};

type Scale = { x: (az: number) => number; y: (el: number) => number; width: number; sky: number };

const norm = (deg: number) => ((deg % 360) + 360) % 360;

/** The middle of the window: the arc's top, moved so that every target is inside. */
function middleOf(arc: Props["arc"], targets: TargetSight[], width: number) {
  const top = arc.reduce((a, p) => (p[2] > (a?.[2] ?? -90) ? p : a), arc[0]);
  let middle = top ? top[1] : 180;
  const half = width / PX / 2 - 12;
  const sats = targets.filter((t) => t.sight && t.kind === "satellite");
  const first = sats.find((t) => t.state === "out") ?? sats[0];
  // A narrow window cannot hold them all: it opens on the one that needs a look.
  if (half < 40 && first?.sight) return first.sight.azimuth_deg;
  for (const t of targets) {
    if (!t.sight) continue;
    const off = norm(t.sight.azimuth_deg - middle + 180) - 180;
    if (off > half) middle += off - half;
    if (off < -half) middle += off + half;
  }
  return middle;
}

/** The panorama: one degree up is drawn as one degree along. */
export function Skyline(p: Props) {
  const [ref, width] = useWidth<HTMLDivElement>(1071);
  const at = useShown();
  const highest = Math.max(
    40,
    ...p.targets.map((t) => (t.sight?.elevation_deg ?? 0) + 8),
    ...p.skyline.map((s) => s.top_deg + 4),
  );
  const sky = Math.min(highest + 9, 92) * PX;
  const middle = middleOf(p.arc, p.targets, width);
  const s: Scale = {
    x: (az) => (norm(az - middle + 180) - 180) * PX + width / 2,
    y: (el) => sky - el * PX,
    width,
    sky,
  };
  const { flags, rise } = crowded(p.targets, s);
  const satellites = p.targets.filter((t) => t.kind === "satellite" && t.gauge.value != null);
  const slack = (t: TargetSight) => (t.gauge.value ?? 0) - (t.gauge.low ?? 0);
  const least = Math.min(...satellites.map(slack));
  // Among many, only the tightest figure and those that are out are written into the picture.
  const told = (t: TargetSight) =>
    satellites.length <= 3 || t.gauge.state === "out" || slack(t) <= least + 1e-6;
  const shift = at.north === "compass" && p.declination != null ? p.declination : 0;
  const compass = at.north === "compass" && p.declination != null;
  return (
    <div ref={ref} className="relative overflow-hidden border-line border-b bg-sky">
      <svg width={width} height={sky + EARTH} role="img" aria-label={p.label} className="block">
        <Rules s={s} />
        {p.sun && <SunTrack sun={p.sun} s={s} skyline={p.skyline} />}
        <Arc
          arc={p.arc}
          s={s}
          clear={p.targets.flatMap((t) => (t.sight ? [s.x(t.sight.azimuth_deg)] : []))}
        />
        {(p.later ?? []).map((shape) => (
          <Edge
            key={shape.id}
            shape={shape}
            s={s}
            colour="var(--color-ink)"
            note={String(p.until ?? "")}
          />
        ))}
        {p.skyline.map((shape) => (
          <Shape key={shape.id} shape={shape} s={s} onTop={p.onTop} />
        ))}
        {(p.previewed ?? []).map((shape) => (
          <Edge key={shape.id} shape={shape} s={s} colour="var(--color-verdigris)" note="" />
        ))}
        <rect x="0" y={sky} width={width} height={EARTH} fill="var(--color-ground)" />
        <Ruler middle={middle} s={s} shift={shift} />
        {(p.neighbours ?? []).map((n) => (
          <OtherBead
            key={n.id}
            n={n}
            s={s}
            crowded={p.targets.some(
              (t) => t.sight && Math.abs(s.x(t.sight.azimuth_deg) - s.x(n.azimuth_deg)) < 62,
            )}
          />
        ))}
        {p.targets.map(
          (t) =>
            t.sight && <PlumbLine key={t.id} t={t} s={s} shift={shift} flag={flags.has(t.id)} />,
        )}
        {p.targets.map(
          (t) =>
            t.sight?.visible &&
            t.kind === "satellite" && (
              <Halo key={t.id} t={t} s={s} r={t.gauge.low ?? p.keepClear} />
            ),
        )}
        {p.targets.map((t) => t.sight && told(t) && <Clearance key={t.id} t={t} s={s} />)}
        {p.targets.map(
          (t) => t.sight && <Bead key={t.id} t={t} s={s} rise={rise.get(t.id) ?? 0} />,
        )}
      </svg>
      <div className="absolute top-3 left-6 text-[13px] max-md:static max-md:bg-sheet max-md:px-4 max-md:py-2">
        {p.children}
      </div>
      <span className="absolute right-4 bottom-1 text-[12px]">
        bearing {compass ? "°M" : "°T"}; 1° up is drawn as 1° along
      </span>
    </div>
  );
}

/** Where targets stand close: which may keep their bearing flag, and how far labels step up. */
function crowded(targets: TargetSight[], s: Scale) {
  const order = targets
    .filter((t) => t.sight)
    .sort((a, b) => s.x(a.sight!.azimuth_deg) - s.x(b.sight!.azimuth_deg));
  const flags = new Set<string>();
  const rise = new Map<string, number>();
  let flagged = Number.NEGATIVE_INFINITY;
  let before = Number.NEGATIVE_INFINITY;
  let step = 0;
  for (const t of order) {
    const x = s.x(t.sight!.azimuth_deg);
    if (x - flagged >= 56) {
      flags.add(t.id);
      flagged = x;
    }
    step = x - before < 58 ? (step + 1) % 4 : 0;
    rise.set(t.id, step * 16);
    before = x;
  }
  return { flags, rise };
}

function Rules({ s }: { s: Scale }) {
  const rows = [10, 20, 30, 40, 50, 60, 70, 80].filter((e) => s.y(e) > 8);
  return (
    <g>
      {rows.map((e) => (
        <g key={e}>
          <line x1="0" x2={s.width} y1={s.y(e)} y2={s.y(e)} stroke="var(--color-line)" />
          <text x={s.width - 10} y={s.y(e) + 4} textAnchor="end" className="mono" fontSize="12">
            {e}°
          </text>
        </g>
      ))}
    </g>
  );
}

function Arc({ arc, s, clear }: { arc: Props["arc"]; s: Scale; clear: number[] }) {
  const visible = arc.filter((a) => s.x(a[1]) > -40 && s.x(a[1]) < s.width + 40 && a[2] > -1);
  const ordered = [...visible].sort((a, b) => s.x(a[1]) - s.x(b[1]));
  const path = ordered
    .map((a, i) => `${i ? "L" : "M"}${s.x(a[1]).toFixed(1)} ${s.y(Math.max(a[2], 0)).toFixed(1)}`)
    .join("");
  return (
    <g>
      <path d={path} fill="none" stroke="var(--color-ink)" strokeWidth="1.2" />
      {ordered.map((a) => {
        const orbit = Math.round(a[0]);
        if (orbit % 5 || a[2] < 0) return null;
        return (
          <g key={a[0]}>
            <line
              x1={s.x(a[1])}
              x2={s.x(a[1])}
              y1={s.y(a[2])}
              y2={s.y(a[2]) + (orbit % 20 ? 5 : 9)}
              stroke="var(--color-ink)"
            />
            {orbit % 20 === 0 && clear.every((x) => Math.abs(x - s.x(a[1])) > 66) && (
              <text
                x={s.x(a[1])}
                y={s.y(a[2]) + 22}
                textAnchor="middle"
                className="mono"
                fontSize="12"
                style={{ fill: "var(--color-quiet)" }}
              >
                {orbit === 0 ? "0°" : `${Math.abs(orbit)}°${orbit > 0 ? "E" : "W"}`}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

function Shape({
  shape,
  s,
  onTop,
}: {
  shape: Silhouette;
  s: Scale;
  onTop?: (id: string, top_deg: number) => void;
}) {
  // Dragged: how far the top was pulled, in pixels; the row is written when it is let go.
  const [pull, setPull] = useState<number | null>(null);
  const start = useRef(0);
  const first = shape.points[0];
  const last = shape.points[shape.points.length - 1];
  if (!first || !last) return null;
  const hangs = shape.outline === "eave";
  const x0 = s.x(first[0]);
  const along = (az: number) => x0 + (az - first[0]) * PX;
  const x1 = along(last[0]);
  if (x1 < 0 || x0 > s.width) return null;
  const edge = shape.points
    .map((q) => `L${along(q[0]).toFixed(1)} ${s.y(Math.max(q[1], 0)).toFixed(1)}`)
    .join("");
  const low = s.y(Math.max(shape.top_deg, 0));
  const inside = !hangs && s.sky - low > 34 && x1 - x0 > 26;
  const named = x1 - x0 > shape.name.length * 6.6 + 34 || !inside;
  const half = named ? shape.name.length * 3.4 + 14 : 10;
  const middle = Math.min(Math.max((x0 + x1) / 2, half), s.width - half);
  return (
    <g>
      <path
        d={`M${x0} ${hangs ? -4 : s.sky}${edge}L${x1} ${hangs ? -4 : s.sky}Z`}
        fill="var(--color-ground)"
        stroke="var(--color-ink)"
        strokeWidth="1.2"
        className={onTop ? "cursor-ns-resize" : undefined}
        style={{ touchAction: "none" }}
        onPointerDown={(e) => {
          if (!onTop) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          start.current = e.clientY;
          setPull(0);
        }}
        onPointerMove={(e) => pull !== null && setPull(e.clientY - start.current)}
        onPointerUp={() => {
          if (pull !== null && Math.abs(pull) > 2)
            onTop?.(shape.id, Math.round((shape.top_deg - pull / PX) * 10) / 10);
          setPull(null);
        }}
        onPointerCancel={() => setPull(null)}
      />
      {pull !== null && Math.abs(pull) > 2 && (
        <g pointerEvents="none">
          <line
            x1={x0}
            x2={x1}
            y1={s.y(shape.top_deg) + pull}
            y2={s.y(shape.top_deg) + pull}
            stroke="var(--color-copper)"
            strokeWidth="2"
            strokeDasharray="5 3"
          />
          <text x={x1 + 6} y={s.y(shape.top_deg) + pull + 4} fontSize="13" className="mono">
            {figureOf(shape.top_deg - pull / PX, 1)}°
          </text>
        </g>
      )}
      <text
        pointerEvents="none"
        x={middle}
        y={inside ? (low + s.sky) / 2 + 8 : hangs ? Math.max(low + 16, 14) : low - 6}
        textAnchor="middle"
        fontSize="13"
        fontWeight="700"
        paintOrder="stroke"
        stroke={inside ? "var(--color-ground)" : "var(--color-sky)"}
        strokeWidth="4"
      >
        {shape.letter}
        {named && <tspan fontWeight="400"> {shape.name}</tspan>}
      </text>
    </g>
  );
}

/** The outline alone, dashed: what will have grown, or how it looks with a remedy. */
function Edge({
  shape,
  s,
  colour,
  note,
}: {
  shape: Silhouette;
  s: Scale;
  colour: string;
  note: string;
}) {
  const first = shape.points[0];
  const last = shape.points[shape.points.length - 1];
  if (!first || !last || shape.outline === "eave") return null;
  const x0 = s.x(first[0]);
  const along = (az: number) => x0 + (az - first[0]) * PX;
  const x1 = along(last[0]);
  if (x1 < 0 || x0 > s.width) return null;
  const edge = shape.points
    .map((q) => `L${along(q[0]).toFixed(1)} ${s.y(Math.max(q[1], 0)).toFixed(1)}`)
    .join("");
  return (
    <g>
      <path
        d={`M${x0} ${s.sky}${edge}L${x1} ${s.sky}`}
        fill="none"
        stroke={colour}
        strokeWidth="1.5"
        strokeDasharray="4 3"
      />
      {note && (
        <text x={x1 + 8} y={s.y(Math.max(last[1], 2)) + 4} fontSize="12" className="mono">
          {note}
        </text>
      )}
    </g>
  );
}

/** Dots along the sun's way and a ring at each full hour. */
function SunTrack({
  sun,
  s,
  skyline,
}: {
  sun: [number, number, number][];
  s: Scale;
  skyline: Silhouette[];
}) {
  const seen = sun.filter((p) => p[2] > 0 && s.x(p[1]) > -20 && s.x(p[1]) < s.width + 20);
  return (
    <g aria-label="The sun's way">
      {seen.map(([hour, az, el]) => {
        const x = s.x(az);
        const y = s.y(el);
        const near = (shape: Silhouette) => {
          const [first, last] = [shape.points[0], shape.points[shape.points.length - 1]];
          if (!first || !last || shape.outline === "eave") return false;
          return norm(az - first[0] + 3) <= last[0] - first[0] + 6 && el < shape.top_deg + 3;
        };
        // The inputs stand on the empty sky at the left.
        if (y < 6 || (s.width > 700 && x < 282 && y < 136) || skyline.some(near)) return null;
        const whole = Math.abs(hour - Math.round(hour)) < 1e-6;
        return whole ? (
          <g key={hour}>
            <circle
              cx={x}
              cy={y}
              r="3.2"
              fill="var(--color-sky)"
              stroke="var(--color-quiet)"
              strokeWidth="1.2"
            />
            <text
              x={x}
              y={y - 8}
              textAnchor="middle"
              fontSize="12"
              className="mono"
              style={{ fill: "var(--color-quiet)" }}
            >
              {String(Math.round(hour) % 24).padStart(2, "0")}
            </text>
          </g>
        ) : (
          <circle key={hour} cx={x} cy={y} r="1.1" fill="var(--color-quiet)" />
        );
      })}
    </g>
  );
}

/** A satellite that nobody wants, but that a dish may find. */
function OtherBead({ n, s, crowded }: { n: Neighbour; s: Scale; crowded: boolean }) {
  const x = s.x(n.azimuth_deg);
  const y = s.y(n.elevation_deg);
  if (x < 6 || x > s.width - 6) return null;
  return (
    <g>
      <circle
        cx={x}
        cy={y}
        r="4"
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
        strokeWidth="1.4"
      />
      <text
        x={x}
        y={crowded ? y + 19 : y - 10}
        textAnchor={crowded ? "start" : "middle"}
        fontSize="12"
        paintOrder="stroke"
        stroke="var(--color-sky)"
        strokeWidth="4"
        style={{ fill: "var(--color-quiet)" }}
      >
        {n.name}
      </text>
    </g>
  );
}

function Ruler({ middle, s, shift }: { middle: number; s: Scale; shift: number }) {
  const half = s.width / PX / 2;
  const from = Math.ceil(middle - half - shift);
  const marks = Array.from({ length: Math.floor(half * 2) + 1 }, (_, i) => from + i);
  return (
    <g>
      <line x1="0" x2={s.width} y1={s.sky} y2={s.sky} stroke="var(--color-ink)" strokeWidth="2" />
      {marks.map((m) => {
        const x = s.width / 2 + (m + shift - middle) * PX;
        const shown = norm(m);
        if (shown % 2) return null;
        return (
          <g key={m}>
            <line
              x1={x}
              x2={x}
              y1={s.sky}
              y2={s.sky + (shown % 10 ? 4 : 8)}
              stroke="var(--color-ink)"
            />
            {shown % 10 === 0 && x > 14 && x < s.width - 14 && (
              <text
                x={x}
                y={s.sky + 22}
                textAnchor="middle"
                className={CARDINAL[shown] ? "" : "mono"}
                fontSize="12"
                fontWeight={CARDINAL[shown] ? 700 : 400}
              >
                {CARDINAL[shown] ?? shown}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

function PlumbLine({
  t,
  s,
  shift,
  flag,
}: {
  t: TargetSight;
  s: Scale;
  shift: number;
  flag: boolean;
}) {
  const x = s.x(t.sight!.azimuth_deg);
  const top = s.y(Math.max(t.sight!.elevation_deg, 0));
  const behind = t.kind === "transmitter";
  return (
    <g>
      <line
        x1={x}
        x2={x}
        y1={top}
        y2={s.sky + 27}
        stroke="var(--color-copper)"
        strokeWidth="1.5"
        strokeDasharray={behind && t.state !== "in" ? "3 3" : undefined}
      />
      {flag && (
        <>
          <rect
            x={x - 27}
            y={s.sky + 26}
            width="54"
            height="16"
            rx="2"
            fill="var(--color-sheet)"
            stroke="var(--color-copper)"
          />
          <text
            x={x}
            y={s.sky + 38}
            textAnchor="middle"
            className="mono"
            fontSize="12"
            fontWeight="600"
          >
            {figureOf(norm(t.sight!.azimuth_deg - shift), 1)}
          </text>
        </>
      )}
    </g>
  );
}

/** A true small circle round the satellite; open where something intrudes. */
function Halo({ t, s, r }: { t: TargetSight; s: Scale; r: number }) {
  const rad = Math.PI / 180;
  const el = t.sight!.elevation_deg * rad;
  const points = Array.from({ length: 73 }, (_, i) => {
    const a = i * 5 * rad;
    const e = Math.asin(
      Math.sin(el) * Math.cos(r * rad) + Math.cos(el) * Math.sin(r * rad) * Math.cos(a),
    );
    const daz = Math.atan2(
      Math.sin(a) * Math.sin(r * rad) * Math.cos(el),
      Math.cos(r * rad) - Math.sin(el) * Math.sin(e),
    );
    return [s.x(t.sight!.azimuth_deg) + (daz / rad) * PX, s.y(e / rad)] as const;
  });
  const out = t.gauge.state === "out";
  const nx = s.x(t.nearest_azimuth_deg);
  const ny = s.y(t.nearest_elevation_deg);
  const cx = s.x(t.sight!.azimuth_deg);
  const cy = s.y(t.sight!.elevation_deg);
  const toward = Math.atan2(ny - cy, nx - cx);
  let path = "";
  let pen = false;
  for (const [x, y] of points) {
    const away = Math.abs(
      Math.atan2(
        Math.sin(Math.atan2(y - cy, x - cx) - toward),
        Math.cos(Math.atan2(y - cy, x - cx) - toward),
      ),
    );
    const gap = out && away < 0.6;
    path += gap ? "" : `${pen ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`;
    pen = !gap;
  }
  return <path d={path} fill="none" stroke={COLOUR[t.gauge.state]} strokeWidth={out ? 2 : 1.4} />;
}

function Clearance({ t, s }: { t: TargetSight; s: Scale }) {
  if (t.kind !== "satellite" || t.gauge.value == null || t.gauge.value > 60 || !t.nearest)
    return null;
  const x1 = s.x(t.sight!.azimuth_deg);
  const y1 = s.y(t.sight!.elevation_deg);
  const x2 = s.x(t.nearest_azimuth_deg);
  const y2 = s.y(t.nearest_elevation_deg);
  const right = x2 >= x1;
  const mid = Math.abs(x2 - x1) < 14;
  return (
    <g>
      <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={COLOUR[t.gauge.state]} strokeWidth="2" />
      <text
        x={mid ? x1 + 9 : (x1 + x2) / 2 + (right ? 4 : -4)}
        y={mid ? (y1 + y2) / 2 + 12 : (y1 + y2) / 2 + 18}
        textAnchor={mid || right ? "start" : "end"}
        className="mono"
        fontSize="13"
        fontWeight="700"
        paintOrder="stroke"
        stroke="var(--color-sky)"
        strokeWidth="4"
        style={{ fill: COLOUR[t.gauge.state] }}
      >
        {figureOf(t.gauge.value, 1)}°
      </text>
    </g>
  );
}

function Bead({ t, s, rise }: { t: TargetSight; s: Scale; rise: number }) {
  const x = s.x(t.sight!.azimuth_deg);
  const y = s.y(Math.max(t.sight!.elevation_deg, 0));
  const label = { paintOrder: "stroke", stroke: "var(--color-sky)", strokeWidth: 4 } as const;
  if (t.kind === "transmitter") {
    return (
      <g>
        <path
          d={`M${x} ${s.sky}V${s.sky - 40}M${x - 5} ${s.sky - 38}h10M${x - 4} ${s.sky - 33}h8`}
          stroke="var(--color-copper)"
          strokeWidth="2"
          fill="none"
        />
        <text x={x} y={s.sky - 48} textAnchor="middle" fontSize="13" fontWeight="700" {...label}>
          {t.name}
        </text>
      </g>
    );
  }
  return (
    <g>
      <circle cx={x} cy={y} r="5.5" fill="var(--color-copper)" stroke="var(--color-sheet)" />
      <text x={x} y={y - 13 - rise} textAnchor="middle" fontSize="14" fontWeight="700" {...label}>
        {t.name}
      </text>
    </g>
  );
}
