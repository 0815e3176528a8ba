import { figureOf } from "../../units/units";
import type { Neighbour, TargetSight } from "../../wire/types";
import { Room, type Spot, textBox } from "../labels";
import type { Scale } from "./scale";

/** Where the words of a skyline stand. Targets come first, then figures, then what is beside. */
export type Placing = {
  flags: Set<string>;
  names: Map<string, Spot>;
  figures: Map<string, Spot | null>;
  others: Map<string, Spot | null>;
  /** Whether small words, such as a mark of the arc, have room there. */
  room: (text: string, at: Spot) => boolean;
};

export const hasClearance = (t: TargetSight) =>
  t.kind === "satellite" && t.gauge.value != null && t.gauge.value <= 60 && t.nearest != null;

export function placing(
  targets: TargetSight[],
  neighbours: Neighbour[],
  told: (t: TargetSight) => boolean,
  s: Scale,
): Placing {
  const room = new Room({ x: 2, y: -999, w: s.width - 4, h: s.sky + 999 });
  const seen = targets
    .filter((t) => t.sight)
    .sort((a, b) => s.x(a.sight!.azimuth_deg) - s.x(b.sight!.azimuth_deg));
  const flags = new Set<string>();
  const names = new Map<string, Spot>();
  let flagged = Number.NEGATIVE_INFINITY;
  for (const t of seen) {
    const x = s.x(t.sight!.azimuth_deg);
    if (x - flagged >= 56) {
      flags.add(t.id);
      flagged = x;
    }
    const mast = t.kind === "transmitter";
    const low = mast ? s.sky - 48 : s.y(Math.max(t.sight!.elevation_deg, 0)) - 13;
    const first: Spot = { x, y: low, anchor: "middle" };
    const above = Array.from({ length: 6 }, (_, i): Spot => ({ ...first, y: low - 16 * (i + 1) }));
    const aside: Spot[] = mast
      ? []
      : [
          { x: x + 11, y: low + 18, anchor: "start" },
          { x: x - 11, y: low + 18, anchor: "end" },
        ];
    names.set(t.id, room.place(t.name, [first, ...aside, ...above], 15) ?? first);
  }
  const figures = new Map<string, Spot | null>();
  for (const t of seen) {
    if (!hasClearance(t) || !told(t)) continue;
    const x1 = s.x(t.sight!.azimuth_deg);
    const y1 = s.y(t.sight!.elevation_deg);
    const x2 = s.x(t.nearest_azimuth_deg);
    const y2 = s.y(t.nearest_elevation_deg);
    const [mx, my] = [(x1 + x2) / 2, (y1 + y2) / 2];
    const right = x2 >= x1;
    const steep = Math.abs(x2 - x1) < 14;
    const spots: Spot[] = steep
      ? [
          { x: x1 + 9, y: my + 12, anchor: "start" },
          { x: x1 - 9, y: my + 12, anchor: "end" },
        ]
      : [
          { x: mx + (right ? 4 : -4), y: my + 18, anchor: right ? "start" : "end" },
          { x: mx, y: my - 8, anchor: "middle" },
          { x: mx, y: my + 30, anchor: "middle" },
        ];
    const text = `${figureOf(t.gauge.value ?? 0, 1)}°`;
    figures.set(t.id, room.place(text, spots, 13, true) ?? spots[0] ?? null);
  }
  const others = new Map<string, Spot | null>();
  for (const n of neighbours) {
    const x = s.x(n.azimuth_deg);
    const y = s.y(n.elevation_deg);
    others.set(
      n.id,
      room.place(
        n.name,
        [
          { x, y: y - 10, anchor: "middle" },
          { x: x + 4, y: y + 19, anchor: "start" },
          { x: x - 4, y: y + 19, anchor: "end" },
          { x: x + 8, y: y - 8, anchor: "start" },
          { x: x - 8, y: y - 8, anchor: "end" },
        ],
        12,
      ),
    );
  }
  // Marks of the arc keep off the plumb lines too.
  for (const t of seen) {
    const top = s.y(Math.max(t.sight!.elevation_deg, 0));
    room.take({ x: s.x(t.sight!.azimuth_deg) - 4, y: top, w: 8, h: s.sky - top });
  }
  return {
    flags,
    names,
    figures,
    others,
    room: (text, at) => room.free(textBox(text, at, 12, true)),
  };
}
