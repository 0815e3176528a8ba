import { scaleLinear } from "d3-scale";
import { plain, useShown } from "../units/showing";
import { figureOf, shown, textOf } from "../units/units";
import type { PathView } from "../wire/types";

const LEFT = 46;
const RIGHT = 22;
const TOP = 30;
const BASE = 34;

/** The ground from the house to a transmitter, raised by the earth's curve; the ray over it and the
 * border of the first Fresnel zone. Heights are drawn larger than distances; by how much is said. */
export function ProfilePicture({
  path,
  width,
  height = 260,
}: {
  path: PathView;
  width: number;
  height?: number;
}) {
  const at = useShown();
  const top = Math.max(path.mast_m, path.antenna_m, ...path.ground.map((g) => g[2]!));
  const low = Math.min(...path.ground.map((g) => g[1]!), ...path.ground.map((g) => g[2]!));
  const span = Math.max(top - low, 20);
  const x = scaleLinear([0, path.distance_km], [LEFT, width - RIGHT]);
  const y = scaleLinear([low - span * 0.12, top + span * 0.1], [height - BASE, TOP]);
  // The rules stand at round figures of the units that are shown.
  const us = at.units === "us";
  const along = scaleLinear([0, us ? path.distance_km / 1.609344 : path.distance_km], x.range());
  const heights = scaleLinear(
    y.domain().map((v) => (us ? v / 0.3048 : v)),
    y.range(),
  );
  const taller =
    (height - TOP - BASE) / (span * 1.22) / ((width - LEFT - RIGHT) / (path.distance_km * 1000));
  const ground = path.ground.map((g) => `${x(g[0]!).toFixed(1)} ${y(g[2]!).toFixed(1)}`);
  const bare = path.ground.map(
    (g) => `${x(g[0]!).toFixed(1)} ${y(g[2]! - g[1]! + low).toFixed(1)}`,
  );
  const zone = path.zone.map((z) => `${x(z[0]!).toFixed(1)} ${y(z[1]!).toFixed(1)}`);
  const [hx, hy] = [x(0), y(path.antenna_m)];
  const [tx, ty] = [x(path.distance_km), y(path.mast_m)];
  const clear = {
    x: x(path.clear_km),
    ray: ty + ((hy - ty) * (tx - x(path.clear_km))) / (tx - hx),
  };
  const ground_at = nearest(path, path.clear_km);
  const blocked = !path.in_sight;
  const edge = { x: x(path.edge_km), y: clear.ray };
  const edgeRay = hy + ((ty - hy) * (edge.x - hx)) / (tx - hx);
  const km = (v: number) => shown(v, "km", v < 10 ? 1 : 0, at);
  const m = (v: number) => shown(v, "m", 0, at);
  const pin = (v: number) => Math.min(Math.max(v, LEFT + 90), width - RIGHT - 110);
  return (
    <>
      <svg
        width={width}
        height={height - 12}
        className="block bg-sky"
        role="img"
        aria-label={`Ground toward ${path.name}, ${textOf({ value: path.distance_km, unit: "km", digits: 1 }, at)}: ${plain(path.words, at)}`}
      >
        {heights.ticks(5).map((t) => (
          <g key={t}>
            <line
              x1={LEFT}
              x2={width - RIGHT}
              y1={heights(t)}
              y2={heights(t)}
              stroke="var(--color-line)"
            />
            <text x={LEFT - 6} y={heights(t) + 4} textAnchor="end" fontSize="12" className="mono">
              {t}
            </text>
          </g>
        ))}
        <path
          d={`M${x(0)} ${height - BASE}L${ground.join("L")}L${tx} ${height - BASE}Z`}
          fill="var(--color-ground)"
          stroke="var(--color-ink)"
          strokeWidth="1.2"
          strokeDasharray={path.known ? undefined : "5 4"}
        />
        <path d={`M${bare.join("L")}`} fill="none" stroke="var(--color-tick)" strokeWidth="1" />
        <path
          d={`M${zone.join("L")}`}
          fill="none"
          stroke="var(--color-copper)"
          strokeDasharray="3 4"
          strokeWidth="1.2"
        />
        <line x1={hx} y1={hy} x2={tx} y2={ty} stroke="var(--color-copper)" strokeWidth="2.2" />
        {blocked ? (
          <g>
            <line
              x1={edge.x}
              x2={edge.x}
              y1={edgeRay}
              y2={edgeRay - (y(0) - y(Math.max(path.edge_above_m, 0)))}
              stroke="var(--color-fail)"
              strokeWidth="2.4"
            />
            <Label x={pin(edge.x)} y={TOP - 12} tone="var(--color-fail)">
              {m(path.edge_above_m).figure} {m(0).unit} over the ray at {km(path.edge_km).figure}{" "}
              {km(0).unit}
            </Label>
          </g>
        ) : (
          path.clear_share < 3 && (
            <g>
              <line
                x1={clear.x}
                x2={clear.x}
                y1={clear.ray}
                y2={y(ground_at)}
                stroke={path.clear_share < 0.6 ? "var(--color-marginal)" : "var(--color-ok)"}
                strokeWidth="2.4"
              />
              <Label
                x={pin(clear.x)}
                y={TOP - 12}
                tone={path.clear_share < 0.6 ? "var(--color-marginal)" : "var(--color-ok)"}
              >
                {figureOf(path.clear_share * 100, 0)} % of the zone free at{" "}
                {km(path.clear_km).figure} {km(0).unit}
              </Label>
            </g>
          )
        )}
        <Pole x={hx} y={hy} foot={y(path.house_m)} />
        <Pole x={tx} y={ty} foot={y(path.ground[path.ground.length - 1]?.[2] ?? low)} tall />
        <Label x={hx + 8} y={Math.max(hy - 8, 24)} start>
          house {m(path.antenna_m).figure} {m(0).unit}
        </Label>
        <Label x={tx - 4} y={Math.max(ty - 8, 24)} end>
          {path.name} {m(path.mast_m).figure} {m(0).unit}
        </Label>
        <line
          x1={LEFT}
          x2={width - RIGHT}
          y1={height - BASE}
          y2={height - BASE}
          stroke="var(--color-ink)"
          strokeWidth="1.5"
        />
        {along.ticks(8).map((t) => (
          <g key={t}>
            <line
              x1={along(t)}
              x2={along(t)}
              y1={height - BASE}
              y2={height - BASE + 5}
              stroke="var(--color-ink)"
            />
            <text
              x={along(t)}
              y={height - BASE + 18}
              textAnchor="middle"
              fontSize="12"
              className="mono"
            >
              {t}
            </text>
          </g>
        ))}
      </svg>
      <p className="m-0 bg-sky px-3 pb-1 text-right text-fine text-muted">
        {km(0).unit} from the house; heights in {m(0).unit} above sea, drawn {figureOf(taller, 0)}{" "}
        times larger; thin line: the earth's curve, k = 4/3
      </p>
    </>
  );
}

function nearest(path: PathView, km: number): number {
  return path.ground.reduce((a, b) => (Math.abs(b[0]! - km) < Math.abs(a[0]! - km) ? b : a))[2]!;
}

function Pole({ x, y, foot, tall }: { x: number; y: number; foot: number; tall?: boolean }) {
  return (
    <g>
      <line
        x1={x}
        x2={x}
        y1={y}
        y2={Math.max(foot, y + 6)}
        stroke="var(--color-ink)"
        strokeWidth="2"
      />
      {tall ? (
        <path
          d={`M${x - 5} ${y + 6}h10M${x - 4} ${y + 12}h8`}
          stroke="var(--color-ink)"
          strokeWidth="1.6"
        />
      ) : (
        <circle cx={x} cy={y} r="3.5" fill="var(--color-copper)" />
      )}
    </g>
  );
}

function Label({
  x,
  y,
  children,
  tone,
  start,
  end,
}: {
  x: number;
  y: number;
  children: React.ReactNode;
  tone?: string;
  start?: boolean;
  end?: boolean;
}) {
  return (
    <text
      x={x}
      y={y}
      textAnchor={start ? "start" : end ? "end" : "middle"}
      fontSize="13"
      fontWeight="700"
      paintOrder="stroke"
      stroke="var(--color-sky)"
      strokeWidth="4"
      style={tone ? { fill: tone } : undefined}
    >
      {children}
    </text>
  );
}
