import { describe, expect, it } from "vitest";
import { figureOf, inUnit, type Showing, shown, textOf, unitName } from "../src/units/units";

const METRIC: Showing = { units: "metric", level: "dbuv", north: "true" };
const US: Showing = { units: "us", level: "dbmv", north: "true" };

describe("figures as they are shown", () => {
  // The international foot, inch, mile and pound-force are exact by definition (NIST SP 811, from memory).
  it.each([
    [0.3048, "m", 3, "1.000", "ft"],
    [25.4, "mm", 1, "1.00", "in"],
    [1.609344, "km", 3, "1.000", "mi"],
    [4.4482216152605, "n", 3, "1.000", "lbf"],
    [0.44704, "ms", 3, "1.000", "mph"],
  ] as const)("%d %s in US units", (value, unit, digits, figure, name) => {
    const s = shown(value, unit, digits, US);
    expect(Number(s.figure)).toBeCloseTo(Number(figure), 2);
    expect(s.unit).toBe(name);
  });

  // dBmV is dBµV less 60; dBm in 75 ohm is dBµV less 10 lg(75 · 10^9) = 108.75.
  it.each([
    ["dbuv", "68.8"],
    ["dbmv", "8.8"],
    ["dbm", "−40.0"],
  ] as const)("68.75 dBµV in %s", (level, figure) => {
    expect(shown(68.75, "dbuv", 1, { ...METRIC, level }).figure).toBe(figure);
  });

  it("a level follows its own unit and not the system of lengths", () => {
    expect(shown(60, "dbuv", 1, { ...METRIC, units: "us" }).unit).toBe("dBµV");
    expect(shown(10, "db", 1, US).figure).toBe("10.0");
  });

  it("a negative nought is nought, and minus is a minus sign", () => {
    expect(figureOf(-0.04, 1)).toBe("0.0");
    expect(figureOf(-0.06, 1)).toBe("−0.1");
  });

  it("a conductor is a wire gauge where one is near, else square millimetres", () => {
    // 4 AWG is 21.15 mm² (ASTM B258, from memory).
    expect(shown(21.15, "mm2", 1, US)).toEqual({ figure: "4", unit: "AWG" });
    expect(shown(18, "mm2", 1, US).unit).toBe("mm²");
    expect(unitName("mm2", US)).toBe("AWG");
  });

  it("a degree stands at its figure, any other unit behind a space", () => {
    expect(textOf({ value: 12.34, unit: "deg", digits: 1 }, METRIC)).toBe("12.3°");
    expect(textOf({ value: 2, unit: "m", digits: 0 }, METRIC)).toBe("2 m");
  });
});

describe("typed text", () => {
  it.each(["7,4", "7.4", " 12 ", "-3", "½", "1/2"])(
    "%j is bare: the shown unit goes behind",
    (text) => {
      expect(inUnit(text, "m", US)).toBe(`${text} ft`);
    },
  );

  it.each(["7.4 m", "5ft", "abc", ""])("%j is sent unchanged", (text) => {
    expect(inUnit(text, "m", US)).toBe(text);
  });

  it("in metric units nothing is added", () => {
    expect(inUnit("7,4", "m", METRIC)).toBe("7,4");
  });
});
