import { useState } from "react";
import { RefusalWords } from "../../parts/RefusalWords";
import { NumberField } from "../../parts/Value";
import type { LimitLine } from "../../service/client";
import { useJob } from "../../service/job";
import { useLimits } from "../../service/pages";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";

/** Limits of this job: its practice's, and what somebody asks for in their place. */
export function Limits() {
  const [open, show] = useState(false);
  return (
    <section aria-label="Limits" className="mt-4 max-w-4xl text-dense">
      <h2 className="m-0 border-line border-b pb-1.5 text-body">
        <button
          type="button"
          aria-expanded={open}
          className="font-bold"
          onClick={() => show(!open)}
        >
          {open ? "−" : "+"} Limits of this job
        </button>{" "}
        <span className="text-dense text-quiet">
          those of its practice; an owner's or a company's own in their place
        </span>
      </h2>
      {open && <Lines />}
    </section>
  );
}

function Lines() {
  const found = useLimits();
  if (found.error)
    return (
      <p role="alert" className="m-0">
        <RefusalWords it={found.error} />
      </p>
    );
  if (!found.data) return <p className="m-0 text-quiet">Reading them</p>;
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="border-line border-b text-quiet">
          <th scope="col">limit</th>
          <th scope="col" className="text-right">
            here
          </th>
          <th scope="col" className="pl-6">
            whose
          </th>
        </tr>
      </thead>
      <tbody>
        {found.data.map((line) => (
          <Line key={line.field} line={line} />
        ))}
      </tbody>
    </table>
  );
}

function Line({ line }: { line: LimitLine }) {
  const { change } = useJob();
  const at = useShown();
  const usual = shown(line.usual, line.unit, 1, at);
  return (
    <tr className="border-line border-b">
      <th scope="row" className="py-0.5">
        {line.title}
      </th>
      <td className="text-right">
        <NumberField
          label={`Limit: ${line.title}`}
          value={line.value}
          unit={line.unit}
          width={60}
          commit={(value) => change({ verb: "limit", field: line.field, value })}
        />
      </td>
      <td className="pl-6 text-quiet">
        {line.own ? (
          <>
            <b className="text-copper">own</b>; usual {usual.figure} {usual.unit}, {line.origin}.
            Empty it to go back.
          </>
        ) : (
          line.origin
        )}
      </td>
    </tr>
  );
}
