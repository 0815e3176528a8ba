import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { figureOf } from "../units/units";
import type { MotorView } from "../wire/types";
import { Room, type Spot } from "./labels";
import { COLOUR } from "./StateMark";

/** The motor's scale with every satellite at its turn, and below it what the arc is off by. */
export function MotorArc({
  motor,
  limit,
  width,
}: {
  motor: MotorView;
  limit: number;
  width: number;
}) {
  const reach = Math.max(limit, ...motor.stops.map((s) => Math.abs(s.hour_deg))) + 6;
  const east = motor.settings.south ? 1 : -1;
  // Someone behind the dish has west on the right when it looks south, on the left looking north.
  const x = scaleLinear([-reach, reach], east > 0 ? [20, width - 20] : [width - 20, 20]);
  const errors = motor.error.map((e) => ({ west: e[0]!, along: e[1]!, across: e[2]! }));
  const worst = Math.max(
    0.1,
    motor.worst_across.high ?? 0.1,
    ...errors.map((e) => Math.max(Math.abs(e.across), Math.abs(e.along))),
  );
  const y = scaleLinear([-worst * 1.15, worst * 1.15], [268, 150]);
  const shape = (key: "along" | "across") =>
    line<(typeof errors)[number]>(
      (e) => x(e.west),
      (e) => y(e[key]),
    )(errors.filter((e) => Math.abs(e.west) <= reach)) ?? "";
  const high = motor.worst_across.high ?? 0;
  const room = new Room({ x: 0, y: 0, w: width, h: 80 });
  const names = motor.stops.map((s) => {
    const at = x(s.hour_deg);
    const spots = [62, 44, 26, 12].flatMap((y): Spot[] => [
      { x: at, y, anchor: "middle" },
      { x: at - 5, y, anchor: "start" },
      { x: at + 5, y, anchor: "end" },
    ]);
    return room.place(s.name, spots, 14) ?? { x: at, y: 62, anchor: "middle" as const };
  });
  return (
    <svg
      width={width}
      height="276"
      className="block"
      role="img"
      aria-label={`Motor: ${motor.stops.map((s) => `${s.name} ${figureOf(Math.abs(s.hour_deg), 1)}° ${s.hour_deg > 0 ? "west" : "east"}`).join(", ")}`}
    >
      <line x1={x(-reach)} x2={x(reach)} y1="84" y2="84" stroke="var(--color-rail)" />
      <path
        d={bracket(x(-limit), x(-limit) < x(0) ? 1 : -1, 84)}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="2"
      />
      <path
        d={bracket(x(limit), x(limit) > x(0) ? -1 : 1, 84)}
        fill="none"
        stroke="var(--color-ink)"
        strokeWidth="2"
      />
      {Array.from({ length: 15 }, (_, i) => -70 + i * 10)
        .filter((t) => Math.abs(t) <= reach && (width > 420 || t % 20 === 0))
        .map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1="84" y2="90" stroke="var(--color-ink)" />
            <text x={x(t)} y="105" textAnchor="middle" fontSize="12" className="mono">
              {Math.abs(t)}
            </text>
          </g>
        ))}
      <text x={x(reach)} y="122" textAnchor={east > 0 ? "end" : "start"} fontSize="12">
        west
      </text>
      <text x={x(-reach)} y="122" textAnchor={east > 0 ? "start" : "end"} fontSize="12">
        east
      </text>
      {motor.stops.map((s, i) => {
        const name = names[i]!;
        const colour = s.reached ? COLOUR.ok : COLOUR.fail;
        return (
          <g key={s.target}>
            <line
              x1={x(s.hour_deg)}
              x2={x(s.hour_deg)}
              y1={name.y + 4}
              y2="92"
              stroke={colour}
              strokeWidth="3"
            />
            <text x={name.x} y={name.y} textAnchor={name.anchor} fontSize="13" fontWeight="700">
              {s.name}
            </text>
          </g>
        );
      })}
      {[0, high, -high].map((v) => (
        <line
          key={v}
          x1={x(-reach)}
          x2={x(reach)}
          y1={y(v)}
          y2={y(v)}
          stroke={v ? "var(--color-ink)" : "var(--color-line)"}
          strokeDasharray={v ? "2 4" : undefined}
        />
      ))}
      <path
        d={shape("along")}
        fill="none"
        stroke="var(--color-muted)"
        strokeWidth="1.5"
        strokeDasharray="5 3"
      />
      <path d={shape("across")} fill="none" stroke="var(--color-copper)" strokeWidth="2.5" />
    </svg>
  );
}

function bracket(x: number, side: number, y: number) {
  return `M${x + side * 6} ${y - 10}H${x}V${y + 10}H${x + side * 6}`;
}
