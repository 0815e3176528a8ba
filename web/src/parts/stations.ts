import type { StationLine } from "../service/client";

export type StationKey =
  | "site"
  | "sky"
  | "aim"
  | "mast"
  | "earth"
  | "coax"
  | "readings"
  | "handover";

export const STATIONS: { key: StationKey; name: string; question: string; wide?: boolean }[] = [
  { key: "site", name: "Site", question: "Where are we, and what is wanted?" },
  { key: "sky", name: "Sky", question: "What can be seen from here, and what is in the way?" },
  { key: "aim", name: "Aim", question: "Where do I point, and what will the tools read?" },
  { key: "mast", name: "Mast", question: "What holds it up in the wind?" },
  { key: "earth", name: "Earth", question: "How is it bonded, and what is dangerous here?" },
  {
    key: "coax",
    name: "Coax",
    question: "What level and quality reaches each outlet?",
    wide: true,
  },
  { key: "readings", name: "Readings", question: "What did the meter say?", wide: true },
  { key: "handover", name: "Handover", question: "What was built, proven and left?" },
];

/** How many stations from Site on are in: so far the wire is solid. */
export function solidTo(stations: StationLine[]): number {
  const first = stations.findIndex((s) => s.state !== "ok");
  return first < 0 ? stations.length : first;
}
