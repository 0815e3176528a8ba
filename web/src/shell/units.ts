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
    if (unit === "m") return { figure: figureOf(value / 0.3048, digits), unit: "ft" };
    if (unit === "km") return { figure: figureOf(value / 1.609344, digits), unit: "mi" };
    if (unit === "mm") return { figure: figureOf(value / 25.4, 1), unit: "in" };
    if (unit === "mm2") {
      const d = Math.sqrt((4 * value) / Math.PI);
      return { figure: figureOf(36 - (39 * Math.log(d / 0.127)) / Math.log(92), 0), unit: "AWG" };
    }
  }
  return { figure: figureOf(value, digits), unit: SUFFIX[unit] };
}

export function unitName(unit: Unit, at: Showing): string {
  return shown(1, unit, 0, at).unit;
}

export function textOf(q: Quantity, at: Showing): string {
  const s = shown(q.value, q.unit, q.digits ?? 1, at);
  return s.unit.startsWith("°") || !s.unit ? s.figure + s.unit : `${s.figure} ${s.unit}`;
}
