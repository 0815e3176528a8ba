import { useWrites } from "../service/job";
import { useRowWrites, useSingle } from "../service/rows";

/** Writes that several stations share. Typed text goes as it was typed. */
export function useStationWrites() {
  const { edit, change } = useWrites();
  return {
    edit,
    change,
    site: useSingle("site"),
    mast: useSingle("mast"),
    earth: useSingle("earth"),
    handover: useSingle("handover"),
    head: useSingle("job"),
    dish: useRowWrites("dishes").set,
    array: useRowWrites("arrays").set,
  };
}
