import { useLayoutEffect, useRef, useState } from "react";

/** Width of an element in pixels, followed as it changes. */
export function useWidth<T extends HTMLElement>(start = 800) {
  const ref = useRef<T>(null);
  const [width, setWidth] = useState(start);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setWidth(Math.round(element.clientWidth)));
    watch.observe(element);
    setWidth(Math.round(element.clientWidth));
    return () => watch.disconnect();
  }, []);
  return [ref, width] as const;
}
