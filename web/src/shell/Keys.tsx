import { useHotkeys } from "react-hotkeys-hook";
import { go } from "../parts/go";
import { loaded } from "../parts/loaded";
import { STATIONS } from "../parts/stations";
import { useJobId } from "../service/job";
import { useSettings } from "../service/settings";
import { useHistory, useSwitches } from "./Header";

export const KeysHelp = loaded(() => import("./KeysHelp"));

/** Whether a station has the focus: its page or its header, and not what lies over them. */
function inStation(): boolean {
  return document.activeElement?.closest("[data-station]") != null;
}

/** The keys of a job. Letters, digits and signs act only where a station has the focus, and can be switched off
 * (WCAG 2.2, 2.1.4); while a box is open they belong to it. */
export function Keys({
  onFind,
  onKeys,
  off,
}: {
  onFind: () => void;
  onKeys: () => void;
  off: boolean;
}) {
  const id = useJobId();
  const sw = useSwitches();
  const history = useHistory();
  const letters = useSettings((s) => s.keys === "on") && !off;
  const single = { enabled: letters, ignoreEventWhen: () => !inStation() };
  // The address and not what was drawn last: a station's page may still be on its way.
  const here = () => {
    const [, , , key, on] = window.location.pathname.split("/");
    return { key, doing: on === "do" };
  };
  useHotkeys(
    "1,2,3,4,5,6,7,8",
    (_, h) => {
      const there = STATIONS[Number(h.keys?.join("") ?? h.hotkey) - 1];
      if (there) go(`/jobs/${id}/${there.key}${here().doing ? "/do" : ""}`);
    },
    single,
    [id, letters],
  );
  useHotkeys("p", () => go(`/jobs/${id}/${here().key}${here().doing ? "" : "/do"}`), single, [
    id,
    letters,
  ]);
  useHotkeys("n", sw.north, single, [sw, letters]);
  useHotkeys("u", sw.units, single, [sw, letters]);
  useHotkeys("l", sw.level, single, [sw, letters]);
  useHotkeys("d", sw.theme, single, [sw, letters]);
  const whole = { preventDefault: true, enabled: !off };
  useHotkeys("ctrl+z, meta+z", () => void history.undo(), whole, [history, off]);
  useHotkeys("ctrl+shift+z, meta+shift+z", () => void history.redo(), whole, [history, off]);
  const sign = { ...single, preventDefault: true, useKey: true };
  useHotkeys("/", onFind, sign, [onFind, letters]);
  useHotkeys("?", onKeys, sign, [onKeys, letters]);
  return null;
}
