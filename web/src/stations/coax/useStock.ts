import { useMemo } from "react";
import { useView } from "../../service/job";
import { useCatalogue } from "../../service/workshop";

/** The workshop's catalogue with what the job carries of its own in place of it. */
export function useStock() {
  const shop = useCatalogue();
  const own = useView((view) => view.answers.stock.own);
  return useMemo(
    () =>
      shop && {
        ...shop,
        parts: { ...shop.parts, ...own.parts },
        cables: { ...shop.cables, ...own.cables },
        antennas: { ...shop.antennas, ...own.antennas },
      },
    [shop, own],
  );
}
