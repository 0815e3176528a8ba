import { useJob } from "../service/job";
import { useRows, useSingle } from "../service/rows";

/** Writes that several stations share. Typed text goes as it was typed. */
export function useWrites() {
  const { edit, change } = useJob();
  const [dishes, arrays] = [useRows("dishes"), useRows("arrays")];
  return {
    edit,
    change,
    site: useSingle("site"),
    mast: useSingle("mast"),
    earth: useSingle("earth"),
    handover: useSingle("handover"),
    head: useSingle("job"),
    dish: dishes.set,
    array: arrays.set,
  };
}
