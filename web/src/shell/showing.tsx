import { createContext, useContext } from "react";
import type { Phrase } from "../service/client";
import { type Showing, textOf } from "./units";

const Context = createContext<Showing>({ units: "metric", level: "dbuv", north: "true" });
export const ShowingProvider = Context.Provider;
export const useShown = () => useContext(Context);

/** A phrase of the service with its quantities in the units in force. */
export function Say({ it }: { it: Phrase }) {
  const at = useShown();
  return (
    <>
      {it.map((p, i) =>
        typeof p === "string" ? (
          p
        ) : (
          <span key={i} className="num whitespace-nowrap">
            {textOf(p, at)}
          </span>
        ),
      )}
    </>
  );
}

export function plain(it: Phrase, at: Showing): string {
  return it.map((p) => (typeof p === "string" ? p : textOf(p, at))).join("");
}
