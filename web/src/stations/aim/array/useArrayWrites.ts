import { client } from "../../../service/client";
import { useMeterRows, useRows } from "../../../service/rows";
import { useWrites } from "../../edits";

/** Writes of the pages of one terrestrial antenna. Figures go as they were typed. */
export function useArrayWrites(antenna: string) {
  const { edit, row, array: write } = useWrites();
  const at = (a: Parameters<typeof row>[0]) => ({ params: row(a, antenna) });
  const hold = (a: Parameters<typeof row>[0], id: string) => ({ params: row(a, id) });
  const holds = useRows("holds");
  const heard = useMeterRows("heard", "hold");
  return {
    edit,
    set: (body: Record<string, unknown>) => write(antenna, body),
    model: (key: string) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/model", { ...at(a), body: { key } }),
      ),
    front: (key: string) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/front", { ...at(a), body: { key } }),
      ),
    second: (first: number, second: number) =>
      edit((a) =>
        client.POST("/api/jobs/{job_id}/antennas/{row_id}/second", {
          ...at(a),
          body: { first_deg: String(first), second_deg: String(second) },
        }),
      ),
    addHold: (body: { place: string; above_ground_m: string; heading_deg: string }) =>
      holds.add({ antenna, ...body }),
    setHold: (id: string, body: Record<string, string>) => holds.set(id, body),
    removeHold: (id: string) => holds.remove(id),
    takeHold: (id: string) =>
      edit((a) => client.POST("/api/jobs/{job_id}/holds/{row_id}/take", hold(a, id))),
    heard: (id: string, carrier: string, body: Record<string, string | null>) =>
      heard(id, carrier, body),
  };
}
