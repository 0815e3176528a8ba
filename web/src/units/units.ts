import type { Quantity, Unit } from "../wire/types";
import table from "./table.json";

export type Units = "metric" | "us";
export type LevelUnit = "dbuv" | "dbmv" | "dbm";

/** How figures are shown now. Conversion is for showing only; typed text is read by the service. */
export type Showing = { units: Units; level: LevelUnit; north: "true" | "compass" };

/** The core's own table: names, US units, levels, wires. */
const NAMES: Record<string, string> = table.names;
const US = table.us as unknown as Partial<Record<Unit, [number, string, number | null]>>;
const LEVELS = table.levels as unknown as Record<string, [number, string]>;
const WIRES = table.wires as [string, number][];

/** Whether the units in use convert a unit, so that a bare figure needs the unit's name behind it. */
export function converted(unit: Unit, at: Showing): boolean {
  return unit === "dbuv"
    ? at.level !== "dbuv"
    : at.units === "us" && (unit === "mm2" || unit in US);
}

const BARE = /^[\s\d.,+\-−–—/½¼¾⅛⅜⅝⅞]+$/;

/** Typed text with the unit that stands at its field behind it, where it is a bare figure. */
export function inUnit(text: string, unit: Unit, at: Showing, name = unitName(unit, at)): string {
  return text.trim() && BARE.test(text) && converted(unit, at) ? `${text} ${name}` : text;
}

/** A wire by its size where it is one, else in square millimetres. */
function wire(area: number): Shown {
  const [name, near] = WIRES.reduce((best, size) =>
    Math.abs(Math.log(size[1] / area)) < Math.abs(Math.log(best[1] / area)) ? size : best,
  );
  if (area > 0 && Math.abs(near / area - 1) <= table.same_wire) {
    const [figure = "", unit = ""] = name.split(" ");
    return { figure, unit };
  }
  return { figure: figureOf(area, 1), unit: NAMES.mm2! };
}

export type Shown = { figure: string; unit: string };

export function figureOf(value: number, digits: number): string {
  const text = value.toFixed(digits);
  return (Number(text) === 0 ? text.replace("-", "") : text).replace("-", "−");
}

export function shown(value: number, unit: Unit, digits: number, at: Showing): Shown {
  const level = unit === "dbuv" ? LEVELS[at.level] : undefined;
  if (level) return { figure: figureOf(value - level[0], digits), unit: level[1] };
  if (at.units === "us") {
    const us = US[unit];
    // An inch holds 25 mm: one decimal more says as much.
    const more = unit === "mm" ? 1 : 0;
    if (us) return { figure: figureOf(value / us[0], us[2] ?? digits + more), unit: us[1] };
    if (unit === "mm2") return wire(value);
  }
  return { figure: figureOf(value, digits), unit: NAMES[unit]! };
}

export function unitName(unit: Unit, at: Showing): string {
  return unit === "mm2" && at.units === "us" ? "AWG" : shown(1, unit, 0, at).unit;
}

export function textOf(q: Quantity, at: Showing): string {
  const s = shown(q.value, q.unit, q.digits ?? 1, at);
  return s.unit.startsWith("°") || !s.unit ? s.figure + s.unit : `${s.figure} ${s.unit}`;
}
