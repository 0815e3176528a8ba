import { type PointerEvent, useRef, useState } from "react";
import { figureOf } from "../../units/units";
import type { Silhouette } from "../../wire/types";
import type { Placing } from "./placing";
import { norm, PX, type Scale } from "./scale";

/** What of an obstruction was dragged to where: its top [deg up] or a side [deg true]. */
export type Drag = { top_deg: number } | { from_deg: number } | { to_deg: number };

type Held = "top" | "from" | "to";

const tenth = (deg: number) => Math.round(deg * 10) / 10;

export function Arc({
  arc,
  s,
  room,
}: {
  arc: [number, number, number][];
  s: Scale;
  room: Placing["room"];
}) {
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
        const words = orbit === 0 ? "0°" : `${Math.abs(orbit)}°${orbit > 0 ? "E" : "W"}`;
        const at = { x: s.x(a[1]), y: s.y(a[2]) + 22, anchor: "middle" } as const;
        return (
          <g key={a[0]}>
            <line
              x1={s.x(a[1])}
              x2={s.x(a[1])}
              y1={s.y(a[2])}
              y2={s.y(a[2]) + (orbit % 20 ? 5 : 9)}
              stroke="var(--color-ink)"
            />
            {orbit % 20 === 0 && at.y < s.sky - 4 && room(words, at) && (
              <text
                x={at.x}
                y={at.y}
                textAnchor="middle"
                className="mono"
                fontSize="12"
                style={{ fill: "var(--color-muted)" }}
              >
                {words}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

export function Shape({
  shape,
  s,
  onDrag,
}: {
  shape: Silhouette;
  s: Scale;
  onDrag?: (id: string, to: Drag) => void;
}) {
  // Dragged: what is held and how far it was pulled, in pixels; the row is written when it is let go.
  const [pull, setPull] = useState<{ held: Held; by: number } | null>(null);
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
  const dragged = ({ held, by }: { held: Held; by: number }): Drag => {
    if (held === "top") return { top_deg: tenth(shape.top_deg - by / PX) };
    // A side stops a degree before the other one: it never runs round the whole horizon.
    const room = last[0] - first[0] - 1;
    if (held === "from")
      return { from_deg: tenth(norm(first[0] + Math.min(by / PX, Math.max(room, 0)))) };
    return { to_deg: tenth(norm(last[0] + Math.max(by / PX, -Math.max(room, 0)))) };
  };
  const handlers = (held: Held) => ({
    onPointerDown: (e: PointerEvent<SVGElement>) => {
      if (!onDrag) return;
      e.preventDefault(); // no text is selected on the way
      e.currentTarget.setPointerCapture(e.pointerId);
      start.current = held === "top" ? e.clientY : e.clientX;
      setPull({ held, by: 0 });
    },
    onPointerMove: (e: PointerEvent<SVGElement>) =>
      pull && setPull({ held, by: (held === "top" ? e.clientY : e.clientX) - start.current }),
    onPointerUp: () => {
      if (pull && Math.abs(pull.by) > 2) onDrag?.(shape.id, dragged(pull));
      setPull(null);
    },
    onPointerCancel: () => setPull(null),
  });
  const half = named ? shape.name.length * 3.4 + 14 : 10;
  const middle = Math.min(Math.max((x0 + x1) / 2, half), s.width - half);
  return (
    <g>
      <path
        d={`M${x0} ${hangs ? -4 : s.sky}${edge}L${x1} ${hangs ? -4 : s.sky}Z`}
        fill="var(--color-ground)"
        stroke="var(--color-ink)"
        strokeWidth="1.2"
        className={onDrag ? "cursor-ns-resize" : undefined}
        style={{ touchAction: "none" }}
        {...handlers("top")}
      />
      {onDrag &&
        x1 - x0 > 24 &&
        (["from", "to"] as const).map((side) => (
          <rect
            key={side}
            x={(side === "from" ? x0 : x1) - 5}
            y={hangs ? 0 : low}
            width="10"
            height={Math.max(hangs ? low : s.sky - low, 0)}
            fill="transparent"
            className="cursor-ew-resize"
            style={{ touchAction: "none" }}
            {...handlers(side)}
          />
        ))}
      {pull && Math.abs(pull.by) > 2 && (
        <g pointerEvents="none" stroke="var(--color-copper)" strokeWidth="2" strokeDasharray="5 3">
          {pull.held === "top" ? (
            <line
              x1={x0}
              x2={x1}
              y1={s.y(shape.top_deg) + pull.by}
              y2={s.y(shape.top_deg) + pull.by}
            />
          ) : (
            <line
              x1={(pull.held === "from" ? x0 : x1) + pull.by}
              x2={(pull.held === "from" ? x0 : x1) + pull.by}
              y1={hangs ? 0 : low - 12}
              y2={hangs ? low : s.sky}
            />
          )}
        </g>
      )}
      {pull && Math.abs(pull.by) > 2 && (
        <text
          pointerEvents="none"
          x={
            pull.held === "top"
              ? x1 + 6
              : pull.held === "from"
                ? x0 + pull.by - 6
                : x1 + pull.by + 6
          }
          y={pull.held === "top" ? s.y(shape.top_deg) + pull.by + 4 : s.sky - 8}
          textAnchor={pull.held === "from" ? "end" : "start"}
          fontSize="13"
          className="mono"
          paintOrder="stroke"
          stroke="var(--color-sky)"
          strokeWidth="4"
        >
          {figureOf(Object.values(dragged(pull))[0] as number, 1)}
          {pull.held === "top" ? "°" : "°T"}
        </text>
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
export function Edge({
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
export function SunTrack({
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
    <g>
      {seen.map(([hour, az, el]) => {
        const x = s.x(az);
        const y = s.y(el);
        const near = (shape: Silhouette) => {
          const [first, last] = [shape.points[0], shape.points[shape.points.length - 1]];
          if (!first || !last || shape.outline === "eave") return false;
          return norm(az - first[0] + 3) <= last[0] - first[0] + 6 && el < shape.top_deg + 3;
        };
        // The inputs stand on the empty sky at the left.
        if (
          y < 20 ||
          x < 12 ||
          x > s.width - 46 ||
          (s.width > 700 && x < 282 && y < 136) ||
          skyline.some(near)
        )
          return null;
        const whole = Math.abs(hour - Math.round(hour)) < 1e-6;
        return whole ? (
          <g key={hour}>
            <circle
              cx={x}
              cy={y}
              r="3.2"
              fill="var(--color-sky)"
              stroke="var(--color-muted)"
              strokeWidth="1.2"
            />
            <text
              x={x}
              y={y - 8}
              textAnchor="middle"
              fontSize="12"
              className="mono"
              style={{ fill: "var(--color-muted)" }}
            >
              {String(Math.round(hour) % 24).padStart(2, "0")}
            </text>
          </g>
        ) : (
          <circle key={hour} cx={x} cy={y} r="1.1" fill="var(--color-muted)" />
        );
      })}
    </g>
  );
}
