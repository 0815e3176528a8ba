/** Room for words in a picture: what is placed first keeps its place, what comes later gives way. */
export type Box = { x: number; y: number; w: number; h: number };
export type Anchor = "start" | "middle" | "end";
export type Spot = { x: number; y: number; anchor: Anchor };

/** The room of a line of text whose baseline stands at y; a guess from its length. */
export function textBox(text: string, at: Spot, size = 13, mono = false): Box {
  const w = text.length * size * (mono ? 0.61 : 0.56);
  const x = at.anchor === "start" ? at.x : at.anchor === "end" ? at.x - w : at.x - w / 2;
  return { x, y: at.y - size * 0.8, w, h: size };
}

export class Room {
  private taken: Box[] = [];

  constructor(private frame?: Box) {}

  free(b: Box): boolean {
    const f = this.frame;
    if (f && (b.x < f.x || b.x + b.w > f.x + f.w || b.y < f.y || b.y + b.h > f.y + f.h))
      return false;
    return this.taken.every(
      (t) => b.x + b.w <= t.x || t.x + t.w <= b.x || b.y + b.h <= t.y || t.y + t.h <= b.y,
    );
  }

  take(b: Box) {
    this.taken.push(b);
  }

  /** The first spot where the words are free of all others; null where none is. */
  place(text: string, spots: Spot[], size = 13, mono = false): Spot | null {
    for (const spot of spots) {
      const box = textBox(text, spot, size, mono);
      if (this.free(box)) {
        this.take(box);
        return spot;
      }
    }
    return null;
  }
}
