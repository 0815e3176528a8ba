import { useShown } from "../units/showing";
import { figureOf } from "../units/units";
import type { Neighbour, Silhouette, TargetSight } from "../wire/types";
import { Bead, Clearance, Halo, OtherBead, PlumbLine } from "./skyline/marks";
import { type Placing, placing } from "./skyline/placing";
import { norm, PX, type Scale } from "./skyline/scale";
import { Arc, type Drag, Edge, Shape, SunTrack } from "./skyline/shapes";
import { useWidth } from "./useWidth";

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
  onDrag?: (id: string, to: Drag) => void;
  children?: React.ReactNode;
};

/** The middle of the window: the arc's top, moved so that every target is inside. */
const INPUTS_DEG = 60;

function middleOf(arc: Props["arc"], targets: TargetSight[], width: number) {
  const top = arc.reduce((a, p) => (p[2] > (a?.[2] ?? -90) ? p : a), arc[0]);
  let middle = top ? top[1] : 180;
  const half = width / PX / 2 - 12;
  const sats = targets.filter((t) => t.sight && t.kind === "satellite");
  const first = sats.find((t) => t.state === "fail") ?? sats[0];
  const pegs = targets.filter((t) => t.sight && t.kind === "transmitter");
  if (!sats.length && pegs.length) {
    // Transmitters alone: the middle between them, wherever the south is.
    const away = pegs.map((t) => (t.sight!.azimuth_deg * Math.PI) / 180);
    const [e, n] = [
      away.reduce((a, b) => a + Math.sin(b), 0),
      away.reduce((a, b) => a + Math.cos(b), 0),
    ];
    middle = norm((Math.atan2(e, n) * 180) / Math.PI);
    // The inputs lie on the left: move them free of pegs as far as the right side has room.
    const off = pegs.map((t) => norm(t.sight!.azimuth_deg - middle + 180) - 180);
    const room = half + 12 - 12 - Math.max(...off);
    const short = INPUTS_DEG - (Math.min(...off) + half + 12);
    if (width > 700 && short > 0) middle -= Math.max(Math.min(short, room), 0);
  }
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
  // Without a satellite neither the arc nor the height for it is needed: pegs stand below the inputs.
  const ground = p.targets.length > 0 && p.targets.every((t) => t.kind === "transmitter");
  const highest = Math.max(
    ground ? 33 : 40,
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
  const satellites = p.targets.filter((t) => t.kind === "satellite" && t.gauge.value != null);
  const slack = (t: TargetSight) => (t.gauge.value ?? 0) - (t.gauge.low ?? 0);
  const least = Math.min(...satellites.map(slack));
  // Among many, only the tightest figure and those that are out are written into the picture.
  const told = (t: TargetSight) =>
    satellites.length <= 3 || t.gauge.state === "fail" || slack(t) <= least + 1e-6;
  const words = placing(p.targets, p.neighbours ?? [], told, s);
  const shift = at.north === "compass" && p.declination != null ? p.declination : 0;
  const compass = at.north === "compass" && p.declination != null;
  return (
    <div ref={ref} className="relative overflow-hidden border-line border-b bg-sky">
      <svg width={width} height={sky + EARTH} role="img" aria-label={p.label} className="block">
        <Rules s={s} room={words.room} />
        {p.sun && <SunTrack sun={p.sun} s={s} skyline={p.skyline} />}
        <Arc arc={ground ? [] : p.arc} s={s} room={words.room} />
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
          <Shape key={shape.id} shape={shape} s={s} onDrag={p.onDrag} />
        ))}
        {(p.previewed ?? []).map((shape) => (
          <Edge key={shape.id} shape={shape} s={s} colour="var(--color-ok)" note="" />
        ))}
        <rect x="0" y={sky} width={width} height={EARTH} fill="var(--color-ground)" />
        <Ruler middle={middle} s={s} shift={shift} />
        {(p.neighbours ?? []).map((n) => (
          <OtherBead key={n.id} n={n} s={s} at={words.others.get(n.id) ?? null} />
        ))}
        {p.targets.map(
          (t) =>
            t.sight && (
              <PlumbLine key={t.id} t={t} s={s} shift={shift} flag={words.flags.has(t.id)} />
            ),
        )}
        {p.targets.map(
          (t) =>
            t.sight?.visible &&
            t.kind === "satellite" && (
              <Halo key={t.id} t={t} s={s} r={t.gauge.low ?? p.keepClear} />
            ),
        )}
        {p.targets.map(
          (t) =>
            t.sight &&
            told(t) && <Clearance key={t.id} t={t} s={s} at={words.figures.get(t.id) ?? null} />,
        )}
        {p.targets.map(
          (t) => t.sight && <Bead key={t.id} t={t} s={s} name={words.names.get(t.id)!} />,
        )}
        <Outside targets={p.targets} s={s} shift={shift} unit={compass ? "°M" : "°T"} />
      </svg>
      <div className="absolute top-3 left-6 text-dense max-md:static max-md:bg-sheet max-md:px-4 max-md:py-2">
        {p.children}
      </div>
      <span className="absolute top-1 right-4 text-fine text-muted max-md:hidden">
        bearing {compass ? "°M" : "°T"}; 1° up is drawn as 1° along
      </span>
    </div>
  );
}

/** Targets that a narrow window cannot hold: named at the side on which they lie. */
function Outside({
  targets,
  s,
  shift,
  unit,
}: {
  targets: TargetSight[];
  s: Scale;
  shift: number;
  unit: string;
}) {
  const off = targets.filter((t) => {
    const x = t.sight ? s.x(t.sight.azimuth_deg) : 0;
    return t.sight && (x < 0 || x > s.width);
  });
  const count = { left: 0, right: 0 };
  return (
    <g>
      {off.map((t) => {
        const side = s.x(t.sight!.azimuth_deg) < 0 ? "left" : "right";
        const y = s.sky - 8 - 16 * count[side]++;
        return (
          <text
            key={t.id}
            x={side === "left" ? 6 : s.width - 6}
            y={y}
            textAnchor={side === "left" ? "start" : "end"}
            fontSize="12"
            fontWeight="700"
            paintOrder="stroke"
            stroke="var(--color-sky)"
            strokeWidth="4"
          >
            {side === "left" ? "‹ " : ""}
            {t.name} {figureOf(norm(t.sight!.azimuth_deg - shift), 0)}
            {unit}
            {side === "right" ? " ›" : ""}
          </text>
        );
      })}
    </g>
  );
}

function Rules({ s, room }: { s: Scale; room: Placing["room"] }) {
  const rows = [10, 20, 30, 40, 50, 60, 70, 80].filter((e) => s.y(e) > 26);
  return (
    <g>
      {rows.map((e) => (
        <g key={e}>
          <line x1="0" x2={s.width} y1={s.y(e)} y2={s.y(e)} stroke="var(--color-line)" />
          {room(`${e}°`, { x: s.width - 10, y: s.y(e) + 4, anchor: "end" }) && (
            <text x={s.width - 10} y={s.y(e) + 4} textAnchor="end" className="mono" fontSize="12">
              {e}°
            </text>
          )}
        </g>
      ))}
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
