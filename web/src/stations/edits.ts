import { useJob } from "../service/job";
import { useRows, useSingle } from "../service/rows";

/** Writes that several stations share. Typed text goes as it was typed. */
export function useWrites() {
  const { edit, change } = useJob();
  const antennas = useRows("antennas");
  return {
    edit,
    change,
    row: (at: { header: { "if-match": string }; path: { job_id: string } }, row_id: string) => ({
      header: at.header,
      path: { ...at.path, row_id },
    }),
    site: useSingle("site"),
    mast: useSingle("mast"),
    earth: useSingle("earth"),
    handover: useSingle("handover"),
    head: useSingle("job"),
    antenna: (id: string, values: Record<string, unknown>) => antennas.set(id, values as object),
  };
}
