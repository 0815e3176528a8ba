import { Opens, Waiting } from "../../parts/Opens";
import { NumberField } from "../../parts/Value";
import type { LimitLine } from "../../service/client";
import { useWrites } from "../../service/job";
import { useLimits } from "../../service/pages";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";

/** Limits of this job: its practice's, and what somebody asks for in their place. */
export function Limits() {
  return (
    <Opens
      label="Limits"
      title="Limits of this job"
      hint="those of its practice; an owner's or a company's own in their place"
    >
      {() => <Lines />}
    </Opens>
  );
}

function Lines() {
  const found = useLimits();
  if (!found.data) return <Waiting error={found.error} />;
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="border-line border-b text-muted">
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
  const { change } = useWrites();
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
      <td className="pl-6 text-muted">
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
