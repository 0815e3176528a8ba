import { useState } from "react";

type Drag = { part: string; x: number; y: number; toX: number; toY: number; far: boolean };
const FAR_PX = 10;

/** Taking a part by the pointer and dropping it on another one: it is led from there. */
export function useDrag(lead: (part: string, after: string) => void) {
  const [drag, set] = useState<Drag | null>(null);
  const at = (e: React.PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  };
  const partAt = (e: React.PointerEvent) =>
    document.elementFromPoint(e.clientX, e.clientY)?.getAttribute("data-part") ?? null;
  return {
    line: drag?.far ? drag : null,
    onPointerDown: (e: React.PointerEvent<SVGSVGElement>) => {
      const part = partAt(e);
      // A finger scrolls; only what points exactly drags.
      if (!part || e.pointerType === "touch" || e.button !== 0) return;
      const { x, y } = at(e);
      set({ part, x, y, toX: x, toY: y, far: false });
    },
    onPointerMove: (e: React.PointerEvent<SVGSVGElement>) => {
      if (!drag) return;
      const { x, y } = at(e);
      const far = drag.far || Math.hypot(x - drag.x, y - drag.y) > FAR_PX;
      set({ ...drag, toX: x, toY: y, far });
    },
    onPointerUp: (e: React.PointerEvent<SVGSVGElement>) => {
      const after = partAt(e);
      if (drag?.far && after && after !== drag.part) lead(drag.part, after);
      set(null);
    },
    onPointerLeave: () => set(null),
  };
}
