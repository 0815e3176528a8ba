import { describe, expect, it } from "vitest";
import { geometryOf, neighbour, strandsOf, wireWidth } from "../src/stations/coax/geometry";
import type { Cable, PartPlace } from "../src/wire/types";

const place = (part: string, column: number, top: number, more: Partial<PartPlace> = {}) =>
  ({
    part,
    column,
    top,
    bottom: top,
    leaf: false,
    in_rows: [top],
    out_rows: [top],
    before: null,
    after: null,
    ...more,
  }) as PartPlace;

const link = (id: string, from: string, to: string, ports: [number, number] = [0, 0]) =>
  ({
    id,
    from_part: from,
    to_part: to,
    from_port: ports[0],
    to_port: ports[1],
    length_m: 5,
  }) as Cable;

describe("the network on its grid", () => {
  const places = [
    place("p1", 0, 1, { after: "p2" }),
    place("p2", 1, 1, { before: "p1", after: "p3" }),
    place("p3", 2, 0, { before: "p2", leaf: true }),
    place("p4", 2, 2, { before: "p2", leaf: true }),
  ];

  it("spreads the columns over the width and keeps the table's room", () => {
    const g = geometryOf(1000, 2, 3, 30, places);
    expect(g.x(0)).toBe(70);
    expect(g.x(1)).toBe(g.barX);
    expect(g.tableX).toBeLessThanOrEqual(1000 - 400);
    expect(g.y(2) - g.y(1)).toBe(32);
    expect(g.height).toBeGreaterThan(g.y(2));
  });

  it("a narrow window scrolls and nothing falls together", () => {
    const g = geometryOf(300, 2, 3, 30, places);
    expect(g.width).toBeGreaterThan(300);
    expect(g.x(1)).toBeGreaterThan(g.x(0) + 100);
  });

  it.each([
    ["ArrowLeft", "p2", "p1"],
    ["ArrowRight", "p2", "p3"],
    ["ArrowDown", "p3", "p4"],
    ["ArrowUp", "p4", "p3"],
    ["ArrowUp", "p3", null],
    ["ArrowLeft", "p1", null],
  ])("%s from %s is %s", (key, from, to) => {
    expect(neighbour(key, from, places)).toBe(to);
  });

  it("a part that is not drawn leads to the first", () => {
    expect(neighbour("ArrowLeft", "p9", places)).toBe("p1");
  });

  it("cables between the same two parts on one row lie side by side", () => {
    const at = new Map([
      ["p1", place("p1", 0, 1)],
      ["p2", place("p2", 1, 1, { in_rows: [1, 1, 1] })],
    ]);
    const links = [0, 1, 2].map((n) => link(`l${n}`, "p1", "p2", [n, n]));
    const strands = strandsOf(links, at);
    expect([...strands.values()].map((s) => s.aside)).toEqual([-3, 0, 3]);
    expect([...strands.values()].map((s) => s.behind)).toEqual([false, true, true]);
  });

  it("a thicker cable is a thicker line", () => {
    const widths = [5, 7, 10].map(wireWidth);
    expect(widths).toEqual([...widths].sort((a, b) => a - b));
    expect(new Set(widths).size).toBe(3);
  });
});
