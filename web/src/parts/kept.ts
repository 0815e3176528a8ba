import { createContext, useContext } from "react";

/** Counts what was kept by being sent again from outside of a field: its own mark then goes. */
export const KeptAgain = createContext(0);

export function useKeptAgain(): number {
  return useContext(KeptAgain);
}
