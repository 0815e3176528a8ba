import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
} from "@headlessui/react";
import { useEffect, useLayoutEffect, useMemo, useState } from "react";
import { useFocusBack } from "./focus";
import { useTypeAhead } from "./useTypeAhead";

export type Command = { name: string; hint?: string; run: () => void };

function matches(text: string, name: string) {
  const folded = name.toLowerCase();
  return text
    .toLowerCase()
    .split(/\s+/)
    .every((w) => folded.includes(w));
}

/** One box to find anything or run any command; also the list to pick a part from. It is there as long as it is
 * open; what was typed while it was on its way stands in it. */
export default function CommandBox({
  title,
  commands,
  onClose,
  typed: before = "",
  waiting = false,
  empty = "Nothing of that name.",
}: {
  title: string;
  commands: Command[];
  onClose: () => void;
  typed?: string;
  /** Whether the list is still loading. */
  waiting?: boolean;
  /** What is said where nothing fits. */
  empty?: string;
}) {
  const typed = before + useTypeAhead();
  const [query, setQuery] = useState(typed);
  // The dialog draws its field a moment after itself: what was typed is put in once it is there.
  const [input, setInput] = useState<HTMLInputElement | null>(null);
  useFocusBack();
  useLayoutEffect(() => {
    if (!typed || !input) return;
    input.value = typed;
    setQuery(typed);
  }, [typed, input]);
  const found = useMemo(
    () => commands.filter((c) => matches(query, c.name)).slice(0, 60),
    [commands, query],
  );
  const take = (command: Command) => {
    onClose();
    command.run();
  };
  // Enter pressed while the list loads takes its first match once it is there, unless the text changes before.
  const [hasty, setHasty] = useState(false);
  useEffect(() => {
    if (!hasty || waiting) return;
    setHasty(false);
    if (found[0]) take(found[0]);
  });
  return (
    <Dialog open onClose={onClose} className="relative z-50">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex justify-center pt-[12vh]">
        <DialogPanel className="h-fit w-[520px] max-w-[calc(100vw-16px)] rounded-sm border border-ink bg-sheet shadow-lg">
          <Combobox
            immediate
            onChange={(command: Command | null) => {
              if (command) take(command);
            }}
          >
            <ComboboxInput
              ref={setInput}
              autoFocus
              aria-label={title}
              placeholder={title}
              onChange={(e) => {
                setHasty(false);
                setQuery(e.target.value);
              }}
              onKeyDown={(e) => {
                // Once is enough, whatever the list makes of it.
                if (e.key === "Escape") onClose();
                if (e.key !== "Enter" || input?.getAttribute("aria-activedescendant")) return;
                e.preventDefault();
                // A key held down since it opened the box, or one that ends a composed letter, chooses nothing.
                if (!query || e.repeat || e.nativeEvent.isComposing) return;
                if (found[0]) take(found[0]);
                else setHasty(waiting);
              }}
              className="w-full border-line border-b bg-field px-4 py-3 text-ink outline-none"
            />
            <ComboboxOptions static className="m-0 max-h-[50vh] list-none overflow-y-auto p-1">
              {found.map((c) => (
                <ComboboxOption
                  key={`${c.name} ${c.hint}`}
                  value={c}
                  className="flex min-h-8 items-center justify-between gap-4 rounded-sm px-3 py-1 data-focus:bg-ink data-focus:text-sheet"
                >
                  <span>{c.name}</span>
                  {c.hint && <span className="num text-dense opacity-80">{c.hint}</span>}
                </ComboboxOption>
              ))}
            </ComboboxOptions>
            {found.length === 0 && (
              <p className="m-0 px-4 py-3 text-muted">
                {query && !waiting ? "Nothing of that name." : empty}
              </p>
            )}
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
