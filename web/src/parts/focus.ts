import { type RefObject, useEffect, useRef, useState } from "react";
import { useView } from "../service/job";

/** Where the focus goes when a row of a list is removed: to the same button of the next row, else of the one
 * before. */
export function besideRemoved(button: HTMLElement): HTMLElement | null {
  const row = button.closest("tr, li");
  const beside = row?.nextElementSibling ?? row?.previousElementSibling;
  return beside?.querySelector<HTMLElement>("[data-remove]") ?? null;
}

/** What had the focus may go with an answer, such as the form that added the first antenna: the station has it
 * then, and its keys act on. It draws nothing: it looks at each revision, which its parent need not. */
export function FocusKept({ station }: { station: RefObject<HTMLElement | null> }) {
  const revision = useView((view) => view.revision);
  const last = useRef<Element | null>(null);
  useEffect(() => {
    const hear = (e: FocusEvent) => {
      last.current = e.target as Element;
    };
    document.addEventListener("focusin", hear);
    return () => document.removeEventListener("focusin", hear);
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each revision may take away what had the focus
  useEffect(() => {
    const lost = document.activeElement === document.body && last.current?.isConnected === false;
    if (lost) station.current?.focus({ preventScroll: true });
  }, [revision, station]);
  return null;
}

/** For a box that is there only while it is open: what had the focus before has it again afterwards, unless what
 * was chosen has put it elsewhere. */
export function useFocusBack() {
  const [before] = useState(() => document.activeElement);
  useEffect(
    () => () => {
      requestAnimationFrame(() => {
        const lost = document.activeElement === document.body;
        if (lost && before?.isConnected) (before as HTMLElement).focus({ preventScroll: true });
      });
    },
    [before],
  );
}
