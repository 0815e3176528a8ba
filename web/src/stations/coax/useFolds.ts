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
  const kept = places
    .filter((p) => !hidden.has(p.part))
    .map((p) => ({
      ...p,
      top: row(p.top),
      bottom: row(p.bottom),
      in_rows: p.in_rows.map(row),
      out_rows: p.out_rows.map((r) => (r == null ? null : row(r))),
    }));
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

/** A branch in words: branches of one shape are alike. */
function shapeOf(part: string, links: Link[], types: Map<string, string>): string {
  const on = links
    .filter((k) => k.from_part === part)
    .sort((a, b) => (a.from_port ?? 0) - (b.from_port ?? 0));
  return `${types.get(part)}(${on
    .map((k) => `${k.from_port}:${k.cable}${k.length_m}${shapeOf(k.to_part, links, types)}`)
    .join(",")})`;
}
