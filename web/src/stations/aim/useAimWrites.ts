import { client } from "../../service/client";
import { useRows } from "../../service/rows";
import { useWrites } from "../edits";

/** Writes of the pages of one dish. Figures go as they were typed. */
export function useAimWrites(antenna: string) {
  const { edit, change, row, dish: write } = useWrites();
  const [samples, trials, locks] = [useRows("samples"), useRows("trials"), useRows("locks")];
  const [presets, feeds, beams] = [useRows("presets"), useRows("feeds"), useRows("beams")];
  const path = (a: Parameters<typeof row>[0]) => ({ params: row(a, antenna) });
  return {
    edit,
    set: (body: Record<string, unknown>) => write(antenna, body),
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
      edit((a) =>
        client.DELETE("/api/jobs/{job_id}/antennas/{row_id}/samples/{axis}", {
          params: { header: a.header, path: { ...a.path, row_id: antenna, axis }, query: { feed } },
        }),
      ),
    trial: (body: Record<string, string>) => trials.add({ antenna, ...body }),
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
    zero: (reads: string) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/zero", { ...path(a), body: { reads } }),
      ),
    compass: (reads: string, bearing: string) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/compass", {
          ...path(a),
          body: { reads, bearing },
        }),
      ),
    beam: (body: Record<string, string>) => beams.add(body),
    remove: (kind: "samples" | "trials" | "locks" | "feeds" | "presets" | "beams", id: string) =>
      change({ verb: "remove", rows: kind, id }),
  };
}
