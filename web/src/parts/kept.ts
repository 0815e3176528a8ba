import { createContext, useContext } from "react";

/** Counts what was kept by being sent again from outside of a field: its own mark then goes. */
export const KeptAgain = createContext(0);

/** Told when somebody begins to type into a field: the write that follows saw the job as it was then. */
export const TypingBegins = createContext<() => void>(() => {});

export function useTypingBegins(): () => void {
  return useContext(TypingBegins);
}

export function useKeptAgain(): number {
  return useContext(KeptAgain);
}
