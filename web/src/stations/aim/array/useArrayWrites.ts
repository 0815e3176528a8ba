import { useMeterRows, useRows } from "../../../service/rows";
import { useWrites } from "../../edits";

/** Writes of the pages of one terrestrial antenna. Figures go as they were typed. */
export function useArrayWrites(antenna: string) {
  const { change, array: write } = useWrites();
  const holds = useRows("holds");
  const heard = useMeterRows("heard", "hold");
  return {
    set: (body: Record<string, unknown>) => write(antenna, body),
    model: (key: string) => change({ verb: "model", array: antenna, key }),
    front: (key: string) => change({ verb: "front", array: antenna, key }),
    second: (first_deg: number, second_deg: number) =>
      change({ verb: "second", array: antenna, first_deg, second_deg }),
    addHold: (body: { place: string; above_ground_m: string; heading_deg: string }) =>
      holds.add({ antenna, ...body }),
    setHold: (id: string, body: Record<string, string>) => holds.set(id, body),
    removeHold: (id: string) => holds.remove(id),
    takeHold: (hold: string) => change({ verb: "stand", hold }),
    heard: (id: string, carrier: string, body: Record<string, string | null>) =>
      heard(id, carrier, body),
  };
}
