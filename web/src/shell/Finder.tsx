import { loaded } from "../parts/loaded";
import { useTypeAhead } from "../parts/useTypeAhead";

export const FinderBox = loaded(() => import("./FinderBox"));

/** One box to find anything or run any command. What is typed while it is fetched is not lost. */
export function Finder(p: { onClose: () => void; onKeys: () => void }) {
  return <FinderBox {...p} typed={useTypeAhead()} />;
}
