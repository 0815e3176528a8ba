import { type RowOf, type Typed, useMeterRows, useRows } from "../../../service/rows";
import { useStationWrites } from "../../edits";

/** Writes of the pages of one terrestrial antenna. Figures go as they were typed. */
export function useArrayWrites(antenna: string) {
  const { change, array: write } = useStationWrites();
  const spots = useRows("trial_spots");
  const readAt = useMeterRows("trial_readings", "spot");
  return {
    set: (body: Typed<RowOf<"arrays">>) => write(antenna, body),
    model: (key: string) => change({ verb: "model", array: antenna, key }),
    front: (key: string) => change({ verb: "front", array: antenna, key }),
    second: (first_deg: number, second_deg: number) =>
      change({ verb: "second", array: antenna, first_deg, second_deg }),
    addSpot: (body: { place: string; above_ground_m: string; heading_deg: string }) =>
      spots.add({ antenna, ...body }),
    setSpot: (id: string, body: Record<string, string>) => spots.set(id, body),
    removeSpot: (id: string) => spots.remove(id),
    standAt: (spot: string) => change({ verb: "stand", spot }),
    readAt: (id: string, carrier: string, body: Record<string, string | null>) =>
      readAt(id, carrier, body),
  };
}
