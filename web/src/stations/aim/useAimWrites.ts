import { type RowOf, type Typed, useRows } from "../../service/rows";
import { useStationWrites } from "../edits";

/** Writes of the pages of one dish. Figures go as they were typed. */
export function useAimWrites(antenna: string) {
  const { edit, change, dish: write } = useStationWrites();
  const [samples, tries, locks] = [useRows("samples"), useRows("feed_tries"), useRows("locks")];
  const [presets, feeds, beams] = [useRows("presets"), useRows("feeds"), useRows("beams")];
  return {
    edit,
    set: (body: Typed<RowOf<"dishes">>) => write(antenna, body),
    sample: (body: {
      axis: "azimuth" | "elevation" | "skew";
      position: string;
      reading: string;
      unit: "turn" | "flat" | "deg";
      scale: "db" | "pct" | "tone";
      role?: "sweep" | "before" | "after";
      target?: string;
    }) => samples.add({ antenna, role: "sweep", ...body }),
    clearAxis: (axis: "azimuth" | "elevation" | "skew", feed: string) =>
      change({ verb: "anew", dish: antenna, axis, target: feed }),
    trial: (body: Record<string, string>) => tries.add({ antenna, ...body }),
    lock: (body: {
      frequency_mhz: string;
      polarisation: "H" | "V" | "L" | "R";
      symbol_mbd: string;
      locked: boolean;
      identity: string;
      target?: string;
    }) => locks.add({ antenna, ...body }),
    preset: (name: string, tilt_deg: string) => presets.add({ antenna, name, tilt_deg }),
    feed: (target: string) => feeds.add({ antenna, target }),
    zero: (reads: string) => change({ verb: "learn-scale", dish: antenna, reads }),
    compass: (reads: string, bearing: string) =>
      change({ verb: "learn-compass", dish: antenna, reads, bearing }),
    beam: (body: Record<string, string>) => beams.add(body),
    remove: (
      kind: "samples" | "feed_tries" | "locks" | "feeds" | "presets" | "beams",
      id: string,
    ) => change({ verb: "remove", rows: kind, id }),
  };
}
