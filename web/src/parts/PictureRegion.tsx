import type { ReactNode } from "react";
import { Region } from "./Region";

/** A picture that fails alone: it is tried again whenever what stands around it is drawn again. */
export function PictureRegion({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Region name={name} again={children}>
      {children}
    </Region>
  );
}
