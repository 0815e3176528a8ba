/** What is read at a peak, and what is turned, in the words behind a figure. */
export const SCALE_UNIT: Record<string, string> = { db: "dB", pct: "%", tone: "steps" };
export const POSITION_UNIT: Record<string, string> = { turn: "turns", flat: "flats", deg: "°" };
