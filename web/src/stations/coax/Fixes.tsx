import { Crowd } from "../../instruments/Crowd";
import { StateMark } from "../../instruments/StateMark";
import { RefusalWords } from "../../parts/RefusalWords";
import type { Problem } from "../../service/client";
import { useWrites } from "../../service/job";
import { useFixes } from "../../service/pages";
import { Say, useShown } from "../../units/showing";
import { shown } from "../../units/units";

/** What would cure a problem, each tried on the whole plant, with every outlet before and after. */
export function Fixes({ problem }: { problem: Problem }) {
  const { change } = useWrites();
  const at = useShown();
  const found = useFixes(problem.code, problem.ref ?? "");
  if (found.error)
    return (
      <p role="alert" className="m-0">
        <RefusalWords it={found.error} />
      </p>
    );
  if (!found.data) return <p className="m-0 text-muted">Trying every change on the whole plant</p>;
  const { fixes, tried, wanted } = found.data;
  return (
    <section aria-label="What would cure it" className="border-ok border-l-2 pl-3">
      <h3 className="m-0 text-dense">
        <b>What would cure it</b>{" "}
        <span className="text-muted">
          {tried} changes and pairs tried on the whole plant; what makes anything else worse is left
          out
        </span>
      </h3>
      {fixes.length === 0 && (
        <p className="m-0 py-1">
          None of them fixes it without harm elsewhere. Change what comes before: the antenna, what
          is loud beside it, or how the run is shared.
        </p>
      )}
      <ol className="m-0 list-none p-0">
        {fixes.map((c, i) => {
          const least = c.least_db == null ? null : shown(Math.abs(c.least_db), "db", 1, at);
          return (
            <li
              key={i}
              className="grid grid-cols-[minmax(200px,1fr)_auto_auto_auto] items-center gap-x-4 border-line border-b py-1.5 max-md:grid-cols-1"
            >
              <span>
                <Say it={c.do} />
              </span>
              <Crowd marks={c.crowd} />
              <span className="w-40">
                <span className="flex items-center gap-1.5 font-semibold">
                  <StateMark state={c.state} size={18} />
                  {c.state === "ok" ? "cured" : "better, but near"}
                </span>
                <span className="block text-muted">
                  {c.inside} of {wanted} in
                  {least &&
                    `, least ${least.figure} ${least.unit} ${c.least_db! >= 0 ? "inside" : "outside"}`}
                </span>
              </span>
              <button
                type="button"
                className={i === 0 ? "copper-button" : "plain-button"}
                onClick={() => change(c.change)}
              >
                Take it
              </button>
            </li>
          );
        })}
      </ol>
    </section>
  );
}
