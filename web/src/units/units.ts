import type { Quantity, Unit } from "../service/client";

export type Units = "metric" | "us";
export type LevelUnit = "dbuv" | "dbmv" | "dbm";

/** How figures are shown now. Conversion is for showing only; typed text is read by the service. */
export type Showing = { units: Units; level: LevelUnit; north: "true" | "compass" };

const SUFFIX: Record<Unit, string> = {
  deg: "°",
  deg_true: "°T",
  deg_mag: "°M",
  m: "m",
  km: "km",
  mm: "mm",
  mm2: "mm²",
  m2: "m²",
  dbuv: "dBµV",
  dbuvm: "dBµV/m",
  db: "dB",
  mhz: "MHz",
  v: "V",
  ma: "mA",
  nm: "N·m",
  n: "N",
  pct: "%",
  count: "",
  msym: "MBd",
  kw: "kW",
  dbw: "dBW",
  dbi: "dBi",
  mpa: "MPa",
  ms: "m/s",
  pa: "N/m²",
};

/** What a unit becomes in US units: its size, its name, and digits where they differ. */
const US: Partial<Record<Unit, [number, string, number?]>> = {
  m: [0.3048, "ft"],
  km: [1.609344, "mi"],
  mm: [25.4, "in"],
  m2: [0.3048 ** 2, "ft²"],
  ms: [0.44704, "mph", 0],
  nm: [1.3558179, "ft·lb"],
  n: [4.4482216, "lbf"],
  pa: [47.880259, "psf", 1],
  mpa: [6.894757, "ksi", 1],
};

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

/** A wire by its size where it is one, within a thirtieth; else in square millimetres. */
function wire(area: number): Shown {
  const awg = Math.round(
    36 - (39 * Math.log(Math.sqrt((4 * area) / Math.PI) / 0.127)) / Math.log(92),
  );
  const near = (Math.PI / 4) * (0.127 * 92 ** ((36 - awg) / 39)) ** 2;
  if (area > 0 && awg >= -3 && awg <= 40 && Math.abs(near / area - 1) <= 0.033)
    return { figure: awg > 0 ? String(awg) : `${1 - awg}/0`, unit: "AWG" };
  const thousand = Math.round(area / 0.506707 / 50) * 50;
  if (awg < -3 && thousand >= 250 && Math.abs(thousand / (area / 0.506707) - 1) <= 0.033)
    return { figure: String(thousand), unit: "kcmil" };
  return { figure: figureOf(area, 1), unit: "mm²" };
}

export type Shown = { figure: string; unit: string };

export function figureOf(value: number, digits: number): string {
  const text = value.toFixed(digits);
  return (Number(text) === 0 ? text.replace("-", "") : text).replace("-", "−");
}

export function shown(value: number, unit: Unit, digits: number, at: Showing): Shown {
  if (unit === "dbuv" && at.level !== "dbuv") {
    const dbm = at.level === "dbm";
    return { figure: figureOf(value - (dbm ? 108.75 : 60), digits), unit: dbm ? "dBm" : "dBmV" };
  }
  if (at.units === "us") {
    const us = US[unit];
    // An inch holds 25 mm: one decimal more says as much.
    const more = unit === "mm" ? 1 : 0;
    if (us) return { figure: figureOf(value / us[0], us[2] ?? digits + more), unit: us[1] };
    if (unit === "mm2") return wire(value);
  }
  return { figure: figureOf(value, digits), unit: SUFFIX[unit] };
}

export function unitName(unit: Unit, at: Showing): string {
  return unit === "mm2" && at.units === "us" ? "AWG" : shown(1, unit, 0, at).unit;
}

export function textOf(q: Quantity, at: Showing): string {
  const s = shown(q.value, q.unit, q.digits ?? 1, at);
  return s.unit.startsWith("°") || !s.unit ? s.figure + s.unit : `${s.figure} ${s.unit}`;
}
