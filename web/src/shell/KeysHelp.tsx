import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useFocusBack } from "../parts/focus";

const KEYS: [string, string][] = [
  ["1 to 8", "stations"],
  ["p", "plan or do"],
  ["/", "find or run"],
  ["Ctrl+Z", "undo"],
  ["Ctrl+Shift+Z", "redo"],
  ["n", "true or compass north"],
  ["u", "metric or US units"],
  ["l", "level unit"],
  ["d", "day or night"],
  ["arrows", "in the run: move"],
  ["Enter", "in the run: edit"],
  ["a", "in the run: add after"],
  ["b", "in the run: add a branch"],
  ["r", "in the run: replace"],
  ["c", "in the run: the whole branch once more"],
  ["m", "in the run: lead it from elsewhere"],
  ["Delete", "in the run: remove"],
  ["f", "show the fix of the selected problem; again: take it"],
];

export default function KeysHelp({ open, onClose }: { open: boolean; onClose: () => void }) {
  useFocusBack();
  return (
    <Dialog open={open} onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel className="w-[420px] max-w-full rounded-sm border border-ink bg-sheet p-6 shadow-lg">
          <DialogTitle className="m-0 mb-3 font-bold text-head">Keys</DialogTitle>
          <table className="w-full text-dense">
            <tbody>
              {KEYS.map(([key, what]) => (
                <tr key={key} className="border-line border-t">
                  <th scope="row" className="num py-1 pr-4">
                    {key}
                  </th>
                  <td>{what}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <button type="button" className="plain-button mt-4" onClick={onClose}>
            Close
          </button>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
