import { useRef, useState } from "react";
import type { Silhouette } from "../../service/client";
import { figureOf } from "../../shell/units";
import { norm, PX, type Scale } from "./scale";

export function Arc({
  arc,
  s,
  clear,
}: {
  arc: [number, number, number][];
  s: Scale;
  clear: number[];
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

export function Shape({
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
          y < 6 ||
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
