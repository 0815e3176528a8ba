import { figureOf } from "../../units/units";
import type { Neighbour, TargetSight } from "../../wire/types";
import type { Spot } from "../labels";
import { COLOUR } from "../StateMark";
import { hasClearance } from "./placing";
import { norm, PX, type Scale } from "./scale";

export function PlumbLine({
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
        strokeDasharray={behind && t.state !== "ok" ? "3 3" : undefined}
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
export function Halo({ t, s, r }: { t: TargetSight; s: Scale; r: number }) {
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
  const out = t.gauge.state === "fail";
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

export function Clearance({ t, s, at }: { t: TargetSight; s: Scale; at: Spot | null }) {
  if (!hasClearance(t)) return null;
  const x1 = s.x(t.sight!.azimuth_deg);
  const y1 = s.y(t.sight!.elevation_deg);
  const x2 = s.x(t.nearest_azimuth_deg);
  const y2 = s.y(t.nearest_elevation_deg);
  if (!at)
    return <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={COLOUR[t.gauge.state]} strokeWidth="2" />;
  return (
    <g>
      <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={COLOUR[t.gauge.state]} strokeWidth="2" />
      <text
        x={at.x}
        y={at.y}
        textAnchor={at.anchor}
        className="mono"
        fontSize="13"
        fontWeight="700"
        paintOrder="stroke"
        stroke="var(--color-sky)"
        strokeWidth="4"
        style={{ fill: COLOUR[t.gauge.state] }}
      >
        {figureOf(t.gauge.value ?? 0, 1)}°
      </text>
    </g>
  );
}

export function Bead({ t, s, name }: { t: TargetSight; s: Scale; name: Spot }) {
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
        <text
          x={name.x}
          y={name.y}
          textAnchor={name.anchor}
          fontSize="13"
          fontWeight="700"
          {...label}
        >
          {t.name}
        </text>
      </g>
    );
  }
  return (
    <g>
      <circle cx={x} cy={y} r="5.5" fill="var(--color-copper)" stroke="var(--color-sheet)" />
      <text
        x={name.x}
        y={name.y}
        textAnchor={name.anchor}
        fontSize="14"
        fontWeight="700"
        {...label}
      >
        {t.name}
      </text>
    </g>
  );
}

/** A satellite that nobody wants, but that a dish may find. */
export function OtherBead({ n, s, at }: { n: Neighbour; s: Scale; at: Spot | null }) {
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
      <title>{n.name}</title>
      {at && (
        <text
          x={at.x}
          y={at.y}
          textAnchor={at.anchor}
          fontSize="12"
          paintOrder="stroke"
          stroke="var(--color-sky)"
          strokeWidth="4"
          style={{ fill: "var(--color-muted)" }}
        >
          {n.name}
        </text>
      )}
    </g>
  );
}
