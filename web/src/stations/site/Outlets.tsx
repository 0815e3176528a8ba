import { useState } from "react";
import { StateWord } from "../../instruments/StateMark";
import { AddRow, NewText, RemoveButton, RemoveHead } from "../../parts/rows";
import { TextField, Tick } from "../../parts/Value";
import type { Outlet } from "../../service/client";
import { useJob } from "../../service/job";
import { type Typed, useRows } from "../../service/rows";
import { emptied } from "../../shell/emptied";

/** Outlets with floor and wanted services. */
export function Outlets() {
  const { view } = useJob();
  const outlets = useRows("outlets");
  const rows = view.job.outlets ?? [];
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
          <tr className="border-line border-b text-quiet">
            <th scope="col" className="py-1.5 font-bold text-body text-ink">
              Outlets
            </th>
            <th scope="col">floor</th>
            <th scope="col">terrestrial</th>
            <th scope="col">satellite</th>
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

function Row({ o }: { o: Outlet }) {
  const { view } = useJob();
  const outlets = useRows("outlets");
  const state = view.answers.outlets[o.id] ?? "todo";
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
      </td>
      <td>
        <StateWord state={state} />
      </td>
      <td className="text-right">
        <RemoveButton label={`Remove ${o.name}`} remove={remove} />
      </td>
    </tr>
  );
}
