import { type RefObject, useEffect, useState } from "react";

const MARGIN = 600;
const STEP = 300;

export type Span = { top: number; bottom: number };

/** The stretch of a tall picture that is on the screen or close to it; null for one drawn whole. */
export function useSpan(ref: RefObject<Element | null>, on: boolean): Span | null {
  const [span, setSpan] = useState<Span>({ top: 0, bottom: 2000 });
  useEffect(() => {
    if (!on) return;
    const look = () => {
      const above = -(ref.current?.getBoundingClientRect().top ?? 0);
      const top = Math.floor(above / STEP) * STEP - MARGIN;
      const bottom = top + Math.ceil(window.innerHeight / STEP) * STEP + 2 * MARGIN + STEP;
      setSpan((old) => (old.top === top && old.bottom === bottom ? old : { top, bottom }));
    };
    look();
    window.addEventListener("scroll", look, { passive: true, capture: true });
    window.addEventListener("resize", look);
    return () => {
      window.removeEventListener("scroll", look, { capture: true });
      window.removeEventListener("resize", look);
    };
  }, [ref, on]);
  return on ? span : null;
}

export function inSpan(span: Span | null, top: number, bottom: number): boolean {
  return !span || (bottom >= span.top && top <= span.bottom);
}
