import { describe, expect, it } from "vitest";
import { type Coax, drawn } from "../src/stations/coax/useFolds";
import type { Branch, OutletView, PartPlace } from "../src/wire/types";

/** A trunk `p1` that feeds two splitters of three outlets each. */
function block(): Coax {
  const leaf = (part: string, top: number): PartPlace => ({
    part,
    column: 2,
    top,
    bottom: top,
    leaf: true,
    in_rows: [top],
    out_rows: [],
    before: null,
    after: null,
  });
  const split = (part: string, first: number): PartPlace => ({
    ...leaf(part, first),
    column: 1,
    bottom: first + 2,
    leaf: false,
    in_rows: [first + 1],
    out_rows: [first, first + 1, first + 2],
  });
  const rooms = (first: number) => [0, 1, 2].map((n) => `o${first + n}`);
  const branch = (part: string, inside: string[], shape: number): Branch => ({
    part,
    inside,
    by_itself: false,
    shape,
  });
  const all = [...rooms(0), ...rooms(3)];
  return {
    places: [
      { ...split("p1", 1), column: 0, bottom: 4, in_rows: [], out_rows: [1, 4] },
      split("p2", 0),
      ...rooms(0).map((o, n) => leaf(o, n)),
      split("p3", 3),
      ...rooms(3).map((o, n) => leaf(o, 3 + n)),
    ],
    branches: [
      branch("p1", ["p2", "p3", ...all], 2),
      branch("p2", rooms(0), 1),
      branch("p3", rooms(3), 1),
    ],
    links: [
      { id: "l1", from_part: "p1", from_port: 0, to_part: "p2", to_port: 0 },
      { id: "l2", from_part: "p1", from_port: 1, to_part: "p3", to_port: 0 },
    ] as Coax["links"],
    parts: [
      { id: "p1", name: "Trunk" },
      { id: "p2", name: "Left" },
      { id: "p3", name: "Right" },
    ] as Coax["parts"],
    outlets: all.map((o) => ({ part: o, outlet: o, name: o, state: "ok" })) as OutletView[],
  };
}

const known = (coax: Coax) => new Map(coax.branches.map((b) => [b.part, b]));

describe("folded branches", () => {
  it("nothing folded: every place stands where the service put it", () => {
    const coax = block();
    const found = drawn(coax, known(coax), new Set());
    expect(found.places).toBe(coax.places);
    expect(found.folds).toEqual([]);
    expect(found.rows).toBe(6);
  });

  it("a folded branch is one row, what is behind it is gone, the rest moves up", () => {
    const coax = block();
    const found = drawn(coax, known(coax), new Set(["p2"]));
    expect(found.places.map((p) => p.part)).toEqual(["p1", "p2", "p3", "o3", "o4", "o5"]);
    expect(found.folds.map((f) => [f.part, f.row, f.outlets.length])).toEqual([["p2", 0, 3]]);
    expect(found.places.find((p) => p.part === "o3")?.top).toBe(1);
    expect(found.rows).toBe(4);
  });

  it("two of one shape: the second says that it is like the first", () => {
    const coax = block();
    const found = drawn(coax, known(coax), new Set(["p2", "p3"]));
    expect(found.folds.map((f) => f.like)).toEqual([null, "Left"]);
    expect(found.rows).toBe(2);
  });

  it("a fold inside a folded branch is told by the outer one", () => {
    const coax = block();
    const found = drawn(coax, known(coax), new Set(["p1", "p2"]));
    expect(found.folds.map((f) => f.part)).toEqual(["p1"]);
    expect(found.folds[0]?.outlets).toHaveLength(6);
  });
});
