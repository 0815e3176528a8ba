import { useState } from "react";
import { StateWord } from "../../instruments/StateMark";
import { emptied } from "../../parts/emptied";
import { AddRow, NewText, RemoveButton, RemoveHead } from "../../parts/rows";
import { Choice, NumberField, TextField, Tick } from "../../parts/Value";
import type { Job, Outlet } from "../../service/client";
import { useAnswers, useJob } from "../../service/job";
import { type Typed, useRows } from "../../service/rows";

const WANTS = [
  ["none", "no"],
  ["television", "television"],
  ["modem", "modem"],
] as const;

/** Outlets with floor and wanted services. */
export function Outlets() {
  const job = useJob("company", "outlets", "targets");
  const outlets = useRows("outlets");
  const rows = job.outlets ?? [];
  const line = hasLine(job);
  const [name, setName] = useState("");
  const [floor, setFloor] = useState("");
  const add = async () => {
    const said = await outlets.add({ name, floor });
    if (!said) setName(emptied(name));
    return said;
  };
  return (
    <section aria-label="Outlets" className="overflow-x-auto">
      <table className="w-full border-collapse text-dense">
        <thead>
          <tr className="border-line border-b text-muted">
            <th scope="col" className="py-1.5 font-bold text-body text-ink">
              Outlets
            </th>
            <th scope="col">floor</th>
            <th scope="col">terrestrial</th>
            <th scope="col">satellite, tuners</th>
            {line && <th scope="col">company's line</th>}
            <th scope="col">signal there</th>
            <RemoveHead />
          </tr>
        </thead>
        <tbody>
          {rows.map((o) => (
            <Row key={o.id} o={o} />
          ))}
        </tbody>
      </table>
      <AddRow button="Add outlet" add={add}>
        <NewText label="Outlet name" value={name} change={setName} hint="room" required />
        <NewText label="Floor" value={floor} change={setFloor} hint="floor" />
      </AddRow>
    </section>
  );
}

function hasLine(job: Pick<Job, "company" | "targets">): boolean {
  return (
    (job.company?.plan ?? "none") !== "none" || (job.targets ?? []).some((t) => t.kind === "line")
  );
}

function Row({ o }: { o: Outlet }) {
  const job = useJob("company", "targets");
  const answers = useAnswers("outlets");
  const line = hasLine(job);
  const outlets = useRows("outlets");
  const state = answers.outlets[o.id] ?? "unknown";
  const set = (body: Typed<Outlet>) => outlets.set(o.id, body);
  const remove = () => outlets.remove(o.id);
  return (
    <tr className="border-line border-b">
      <th scope="row" className="py-1">
        <TextField
          label={`Name of ${o.name}`}
          value={o.name}
          width={150}
          commit={(t) => set({ name: t })}
        />
      </th>
      <td>
        <TextField
          label={`Floor of ${o.name}`}
          value={o.floor ?? ""}
          width={120}
          commit={(t) => set({ floor: t })}
        />
      </td>
      <td>
        <Tick
          label={`${o.name} terrestrial`}
          hideLabel
          on={o.terrestrial ?? true}
          onChange={(terrestrial) => set({ terrestrial })}
        />
      </td>
      <td>
        <Tick
          label={`${o.name} satellite`}
          hideLabel
          on={o.satellite ?? true}
          onChange={(satellite) => set({ satellite })}
        />
        {o.satellite && (
          <NumberField
            label={`${o.name} tuners`}
            value={o.tuners ?? 1}
            unit="count"
            digits={0}
            width={28}
            commit={(t) => set({ tuners: t })}
          />
        )}
      </td>
      {line && (
        <td>
          <Choice
            label={`${o.name} on the company's line`}
            value={(o.company ?? "none") as (typeof WANTS)[number][0]}
            options={WANTS}
            onChange={(company) => set({ company })}
          />
        </td>
      )}
      <td>
        <StateWord state={state} />
      </td>
      <td className="text-right">
        <RemoveButton label={`Remove ${o.name}`} remove={remove} />
      </td>
    </tr>
  );
}
