import { useEffect, useMemo, useState } from "react";
import type { Link, OutletView, PartPlace, PartView } from "../../service/client";

/** A branch with more outlets than this folds by itself. */
const MOST = 24;
const LEAST = 3;

export type Fold = { part: string; outlets: OutletView[]; row: number; like: string | null };

/** Branches that are folded to a line each: what stays to be drawn, and where. */
export function useFolds(
  places: PartPlace[],
  links: Link[],
  parts: PartView[],
  outlets: OutletView[],
  selected: string | null,
) {
  const known = useMemo(() => branches(places, links, outlets), [places, links, outlets]);
  const [folded, setFolded] = useState<Set<string> | null>(null);
  const now = useMemo(() => {
    const chosen = folded ?? known.byItself;
    return new Set([...chosen].filter((p) => (known.behind.get(p)?.length ?? 0) >= LEAST));
  }, [folded, known]);
  // What is selected is always seen.
  useEffect(() => {
    const over = [...now].filter((p) => selected != null && known.down.get(p)?.has(selected));
    if (over.length) setFolded(new Set([...now].filter((p) => !over.includes(p))));
  }, [selected, now, known]);
  const shown = useMemo(
    () => drawn(places, links, parts, known, now),
    [places, links, parts, known, now],
  );
  const toggle = (part: string) => {
    const next = new Set(now);
    if (!next.delete(part)) next.add(part);
    setFolded(next);
  };
  return {
    ...shown,
    toggle,
    canFold: (part: string | null) =>
      part != null && (known.behind.get(part)?.length ?? 0) >= LEAST,
    folded: now,
    all: () => setFolded(new Set()),
    byItself: () => setFolded(null),
    foldsByItself: known.byItself.size > 0,
  };
}

type Known = {
  behind: Map<string, OutletView[]>;
  down: Map<string, Set<string>>;
  byItself: Set<string>;
};

function branches(places: PartPlace[], links: Link[], outlets: OutletView[]): Known {
  const of = new Map(outlets.map((o) => [o.part, o]));
  const onward = new Map<string, string[]>();
  for (const k of links) onward.set(k.from_part, [...(onward.get(k.from_part) ?? []), k.to_part]);
  const down = new Map<string, Set<string>>();
  const walk = (part: string): Set<string> => {
    const old = down.get(part);
    if (old) return old;
    const found = new Set<string>();
    down.set(part, found);
    for (const next of onward.get(part) ?? []) {
      found.add(next);
      for (const p of walk(next)) found.add(p);
    }
    return found;
  };
  const behind = new Map<string, OutletView[]>();
  for (const p of places) {
    const mine = [...walk(p.part)].flatMap((q) => of.get(q) ?? []);
    const own = of.get(p.part);
    if (!p.leaf) behind.set(p.part, own ? [own, ...mine] : mine);
  }
  const byItself = new Set<string>();
  if (outlets.length > MOST)
    for (const k of links) {
      const here = behind.get(k.to_part)?.length ?? 0;
      if (here >= LEAST && here <= MOST && (behind.get(k.from_part)?.length ?? 0) > MOST)
        byItself.add(k.to_part);
    }
  return { behind, down, byItself };
}

function drawn(
  places: PartPlace[],
  links: Link[],
  parts: PartView[],
  known: Known,
  folded: Set<string>,
) {
  const hidden = new Set<string>();
  const outermost = [...folded].filter(
    (p) => ![...folded].some((q) => q !== p && known.down.get(q)?.has(p)),
  );
  const at = new Map(places.map((p) => [p.part, p]));
  const gone = outermost.map((part) => {
    const inside = [...(known.down.get(part) ?? [])].flatMap((q) => at.get(q) ?? []);
    for (const p of inside) hidden.add(p.part);
    const here = at.get(part);
    const rows = [...inside, ...(here ? [here] : [])];
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
    places.filter((p) => !hidden.has(p.part)),
    links,
    new Set(outermost),
    row,
  );
  const types = new Map(parts.map((p) => [p.id, p.type]));
  const seen = new Map<string, string>();
  const names = new Map(parts.map((p) => [p.id, p.name]));
  const folds: Fold[] = gone.map((g) => {
    const shape = shapeOf(g.part, links, types);
    const like = seen.get(shape) ?? null;
    if (!like) seen.set(shape, names.get(g.part) ?? g.part);
    return { part: g.part, outlets: known.behind.get(g.part) ?? [], row: row(g.top), like };
  });
  return {
    places: kept,
    hidden,
    folds,
    rows: row(Math.max(0, ...places.map((p) => p.bottom))) + 1,
    columns: Math.max(0, ...kept.filter((p) => !p.leaf).map((p) => p.column)) + 1,
  };
}

/** Places with folded rows fallen together. Lines that run side by side ahead of a fold keep their room:
 * they only end as one wire of strands. */
function drawnTogether(
  places: PartPlace[],
  links: Link[],
  folded: Set<string>,
  row: (r: number) => number,
): PartPlace[] {
  const lines = new Map(links.map((k) => [`${k.from_part}:${k.from_port ?? 0}`, k]));
  const into = new Map<string, number[]>();
  const found: PartPlace[] = [];
  for (const p of [...places].reverse()) {
    const out_rows = p.out_rows.map((r, port) => {
      const k = lines.get(`${p.part}:${port}`);
      const there = k && into.get(k.to_part)?.[k.to_port ?? 0];
      return r == null ? null : (there ?? row(r));
    });
    const in_rows = folded.has(p.part) ? p.in_rows.map(row) : kept(p, out_rows, row);
    into.set(p.part, in_rows);
    const all = [...in_rows, ...out_rows.filter((r) => r != null)];
    const ends = all.length && !folded.has(p.part) ? all : [row(p.top), row(p.bottom)];
    found.push({ ...p, in_rows, out_rows, top: Math.min(...ends), bottom: Math.max(...ends) });
  }
  return found.reverse();
}

/** The rows of the lines into a part: each beside the output that it leads on to, else as far apart as
 * they were. */
function kept(p: PartPlace, outs: (number | null)[], row: (r: number) => number): number[] {
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

/** A branch in words: branches of one shape are alike. */
function shapeOf(part: string, links: Link[], types: Map<string, string>): string {
  const on = links
    .filter((k) => k.from_part === part)
    .sort((a, b) => (a.from_port ?? 0) - (b.from_port ?? 0));
  return `${types.get(part)}(${on
    .map((k) => `${k.from_port}:${k.cable}${k.length_m}${shapeOf(k.to_part, links, types)}`)
    .join(",")})`;
}
