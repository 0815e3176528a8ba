import { useLayoutEffect, useState } from "react";

/** What is typed while a box is on its way and has no focus yet: it belongs to the box, not to the page. For a
 * component that is there only as long as the box is open. */
export function useTypeAhead(): string {
  const [typed, type] = useState("");
  useLayoutEffect(() => {
    const hear = (e: KeyboardEvent) => {
      if (e.target instanceof HTMLInputElement || e.ctrlKey || e.metaKey || e.altKey) return;
      if (e.key.length === 1) type((t) => t + e.key);
      else if (e.key === "Backspace") type((t) => t.slice(0, -1));
      else return;
      e.preventDefault();
      // Two of these may be open, the box and what fetches it: the first one has it.
      e.stopImmediatePropagation();
    };
    window.addEventListener("keydown", hear, { capture: true });
    return () => window.removeEventListener("keydown", hear, { capture: true });
  }, []);
  return typed;
}
