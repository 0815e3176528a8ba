import type { Refusal } from "../service/client";
import { Say } from "../units/showing";

/** Why something was refused and what to do, its figures in the units in use. */
export function RefusalWords({ it }: { it: Refusal }) {
  return (
    <>
      {it.detail_said?.length ? <Say it={it.detail_said} /> : it.detail}{" "}
      {it.remedy_said?.length ? <Say it={it.remedy_said} /> : it.remedy}
    </>
  );
}
