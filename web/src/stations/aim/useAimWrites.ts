import { client } from "../../service/client";
import { useWrites } from "../edits";

/** Writes of the pages of one dish. Figures go as they were typed. */
export function useAimWrites(antenna: string) {
  const { edit, row, antenna: write } = useWrites();
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
    }) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/samples", {
          ...path(a),
          body: { role: "sweep", ...body },
        }),
      ),
    clearAxis: (axis: "azimuth" | "elevation" | "skew", feed: string) =>
      edit((a) =>
        client.DELETE("/api/jobs/{job_id}/antennas/{row_id}/samples/{axis}", {
          params: { header: a.header, path: { ...a.path, row_id: antenna, axis }, query: { feed } },
        }),
      ),
    trial: (body: Record<string, string>) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/trials", {
          ...path(a),
          body: body as never,
        }),
      ),
    lock: (body: {
      frequency: string;
      polarisation: "H" | "V" | "L" | "R";
      symbol_mbd: string;
      locked: boolean;
      identity: string;
      target?: string;
    }) =>
      edit((a) => client.POST("/api/jobs/{job_id}/antennas/{row_id}/locks", { ...path(a), body })),
    preset: (name: string, tilt_deg: string) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/presets", {
          ...path(a),
          body: { name, tilt_deg },
        }),
      ),
    feed: (target: string) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/feeds", { ...path(a), body: { target } }),
      ),
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
    beam: (body: Record<string, string>) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/beams/typed", { params: a, body: body as never }),
      ),
    remove: (kind: "samples" | "trials" | "locks" | "feeds" | "presets" | "beams", id: string) =>
      edit((a) =>
        client.DELETE(
          `/api/jobs/{job_id}/${kind}/{row_id}` as "/api/jobs/{job_id}/locks/{row_id}",
          {
            params: row(a, id),
          },
        ),
      ),
  };
}
