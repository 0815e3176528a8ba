import type { Cable, PartPlace } from "../../service/client";

export const ROW = 32;
export const TOP = 84;
export const TABLE = 430;
export const TALL_ROWS = 9;
const LABELS = 156;
export const DROP_PX = 1.8;

export type Geometry = {
  width: number;
  height: number;
  tableX: number;
  barX: number;
  topRow: number;
  x: (column: number) => number;
  y: (row: number) => number;
};

/** Pixels of the run: columns share what the outlet table leaves. */
export function geometryOf(
  width: number,
  columns: number,
  rows: number,
  longest: number,
  places: PartPlace[],
): Geometry {
  const drops = Math.min(Math.max(longest * DROP_PX + 26, 60), 150);
  const tableX = Math.max(width - TABLE, 320 + drops);
  const barX = tableX - drops;
  const step = columns > 1 ? (barX - 70) / (columns - 1) : 0;
  const trunk = places.filter((p) => !p.leaf);
  const topRow = Math.min(rows, ...trunk.map((p) => p.top));
  // Labels of the trunk stand over its upper line, those of lower lines below them: room for both,
  // also where a run has few rows.
  const short = trunk.filter((p) => p.bottom - p.top < TALL_ROWS);
  const upper = Math.min(rows, ...short.map((p) => p.top));
  const top = Math.max(TOP, short.length ? LABELS - upper * ROW : 0);
  const lowest = Math.max(0, ...trunk.filter((p) => p.top > topRow + 0.5).map((p) => p.bottom));
  return {
    width: Math.max(width, tableX + TABLE),
    height: top + Math.max(rows * ROW + 46, lowest * ROW + 130),
    topRow: upper,
    tableX,
    barX,
    x: (column) => (columns > 1 ? 70 + column * step : barX),
    y: (row) => top + row * ROW + ROW / 2,
  };
}

export function wireWidth(diameterMm: number) {
  return diameterMm < 6.5 ? 1.75 : diameterMm < 8 ? 3 : 4.5;
}

/** Pixels between the strands of lines that are drawn as one wire. */
export const STRAND = 3;

/** Lines between the same two parts on one row: how far each is drawn aside [px], and whether it stands
 * behind another whose length is told for all. */
export function strandsOf(links: Cable[], places: Map<string, PartPlace>) {
  const together = new Map<string, Cable[]>();
  for (const k of links) {
    const to = places.get(k.to_part);
    const row = to?.in_rows[k.to_port ?? 0];
    if (row == null || !places.has(k.from_part)) continue;
    const key = `${k.from_part}>${k.to_part}@${row.toFixed(2)}`;
    together.set(key, [...(together.get(key) ?? []), k]);
  }
  const found = new Map<string, { aside: number; behind: boolean }>();
  for (const lines of together.values())
    if (lines.length > 1)
      lines.forEach((k, i) => {
        found.set(k.id, { aside: (i - (lines.length - 1) / 2) * STRAND, behind: i > 0 });
      });
  return found;
}

/** The neighbour of a part in a direction, along cables for left and right. */
export function neighbour(key: string, part: string, places: PartPlace[]): string | null {
  const here = places.find((p) => p.part === part);
  if (!here) return places[0]?.part ?? null;
  if (key === "ArrowLeft") return here.before ?? null;
  if (key === "ArrowRight") return here.after ?? null;
  const peers = places
    .filter((p) => p.leaf === here.leaf && (p.leaf || Math.abs(p.column - here.column) < 1))
    .sort((a, b) => a.top - b.top);
  const i = peers.findIndex((p) => p.part === part);
  return peers[i + (key === "ArrowDown" ? 1 : -1)]?.part ?? null;
}
