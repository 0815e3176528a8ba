import { Say } from "../units/showing";
import type { Refusal } from "../wire/types";

/** Why something was refused and what to do, its figures in the units in use. */
export function RefusalWords({ it }: { it: Refusal }) {
  return (
    <>
      {it.detail_said?.length ? <Say it={it.detail_said} /> : it.detail}{" "}
      {it.remedy_said?.length ? <Say it={it.remedy_said} /> : it.remedy}
    </>
  );
}
