import { useMemo, useState } from "react";
import type { Branch, Cable, OutletView, PartPlace, PartView } from "../../service/client";

export type Fold = { part: string; outlets: OutletView[]; row: number; like: string | null };
export type Coax = {
  places: PartPlace[];
  branches: Branch[];
  links: Cable[];
  parts: PartView[];
  outlets: OutletView[];
};

/** Branches that are folded to a line each: what stays to be drawn, and where. What may be folded, and what is
 * behind it, comes with the answer. */
export function useFolds(coax: Coax, selected: string | null) {
  const { branches } = coax;
  const known = useMemo(() => new Map(branches.map((b) => [b.part, b])), [branches]);
  const [chosen, choose] = useState<ReadonlySet<string> | null>(null);
  const folded = useMemo(() => {
    const wanted = chosen ?? new Set(branches.filter((b) => b.by_itself).map((b) => b.part));
    // What is selected is always seen.
    return new Set(
      branches
        .filter((b) => wanted.has(b.part) && !(selected && b.inside.includes(selected)))
        .map((b) => b.part),
    );
  }, [chosen, branches, selected]);
  const shown = useMemo(() => drawn(coax, known, folded), [coax, known, folded]);
  const toggle = (part: string) => {
    const next = new Set(folded);
    if (!next.delete(part)) next.add(part);
    choose(next);
  };
  return {
    ...shown,
    toggle,
    canFold: (part: string | null) => part != null && known.has(part),
    folded,
    all: () => choose(new Set()),
    byItself: () => choose(null),
    foldsByItself: branches.some((b) => b.by_itself),
  };
}

export function drawn(coax: Coax, known: Map<string, Branch>, folded: ReadonlySet<string>) {
  const { places, links, parts, outlets } = coax;
  const inner = new Set([...folded].flatMap((p) => known.get(p)?.inside ?? []));
  const outermost = [...folded].filter((p) => !inner.has(p));
  const at = new Map(places.map((p) => [p.part, p]));
  const gone = outermost.map((part) => {
    const rows = [part, ...known.get(part)!.inside].flatMap((q) => at.get(q) ?? []);
    return {
      part,
      top: Math.min(...rows.map((p) => p.top)),
      bottom: Math.max(...rows.map((p) => p.bottom)),
    };
  });
  gone.sort((a, b) => a.top - b.top);
  // Rows of a folded branch fall together into one.
  const row = (r: number) => {
    let less = 0;
    for (const g of gone) {
      if (r >= g.bottom) less += g.bottom - g.top;
      else if (r > g.top) return g.top - less;
    }
    return r - less;
  };
  const kept = drawnTogether(
    inner.size ? places.filter((p) => !inner.has(p.part)) : places,
    links,
    new Set(outermost),
    row,
  );
  const served = new Map(outlets.map((o) => [o.part, o]));
  const names = new Map(parts.map((p) => [p.id, p.name]));
  const first = new Map<number, string>();
  const folds: Fold[] = gone.map((g) => {
    const branch = known.get(g.part)!;
    const like = first.get(branch.shape) ?? null;
    if (!like) first.set(branch.shape, names.get(g.part) ?? g.part);
    return {
      part: g.part,
      outlets: [g.part, ...branch.inside].flatMap((p) => served.get(p) ?? []),
      row: row(g.top),
      like,
    };
  });
  return {
    places: kept,
    folds,
    rows: row(Math.max(0, ...places.map((p) => p.bottom))) + 1,
    columns: Math.max(0, ...kept.filter((p) => !p.leaf).map((p) => p.column)) + 1,
  };
}

/** Places with folded rows fallen together. Lines that run side by side ahead of a fold keep their room:
 * they only end as one wire of strands. */
function drawnTogether(
  places: PartPlace[],
  links: Cable[],
  folded: Set<string>,
  row: (r: number) => number,
): PartPlace[] {
  if (!folded.size) return places;
  const lines = new Map(links.map((k) => [`${k.from_part}:${k.from_port ?? 0}`, k]));
  const into = new Map<string, number[]>();
  const found: PartPlace[] = [];
  for (const p of [...places].reverse()) {
    const out_rows = p.out_rows.map((r, port) => {
      const k = lines.get(`${p.part}:${port}`);
      const there = k && into.get(k.to_part)?.[k.to_port ?? 0];
      return r == null ? null : (there ?? row(r));
    });
    const in_rows = folded.has(p.part) ? p.in_rows.map(row) : rowsIn(p, out_rows, row);
    into.set(p.part, in_rows);
    const all = [...in_rows, ...out_rows.filter((r) => r != null)];
    const ends = all.length && !folded.has(p.part) ? all : [row(p.top), row(p.bottom)];
    found.push({ ...p, in_rows, out_rows, top: Math.min(...ends), bottom: Math.max(...ends) });
  }
  return found.reverse();
}

/** The rows of the lines into a part: each beside the output that it leads on to, else as far apart as
 * they were. */
function rowsIn(p: PartPlace, outs: (number | null)[], row: (r: number) => number): number[] {
  const through = p.in_rows.every((r, i) => r === p.out_rows[i] || p.out_rows[i] == null);
  if (p.in_rows.length > 1 && !through) {
    const middle = p.in_rows.reduce((a, b) => a + b, 0) / p.in_rows.length;
    return p.in_rows.map((r) => row(middle) + r - middle);
  }
  const there = outs.filter((r) => r != null);
  if (p.in_rows.length === 1 && there.length)
    return [(Math.min(...there) + Math.max(...there)) / 2];
  return p.in_rows.map((r, i) => outs[i] ?? row(r));
}
