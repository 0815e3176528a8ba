import { createContext, useContext } from "react";
import type { Phrase, Quantity } from "../wire/types";
import { type Showing, shown, textOf } from "./units";

const Context = createContext<Showing>({ units: "metric", level: "dbuv", north: "true" });
export const ShowingProvider = Context.Provider;
export const useShown = () => useContext(Context);

/** A phrase of the service with its quantities in the units in force. */
export function Say({ it }: { it: Phrase }) {
  const at = useShown();
  return <>{it.map((p, i) => (typeof p === "string" ? p : <Amount key={i} it={p} at={at} />))}</>;
}

function Amount({ it, at }: { it: Quantity; at: Showing }) {
  const s = shown(it.value, it.unit, it.digits ?? 1, at);
  const degree = s.unit.startsWith("°");
  return (
    <span className="whitespace-nowrap">
      <span className="num">{s.figure}</span>
      {degree || !s.unit ? s.unit : ` ${s.unit}`}
    </span>
  );
}

export function plain(it: Phrase, at: Showing): string {
  return it.map((p) => (typeof p === "string" ? p : textOf(p, at))).join("");
}
