import { type FormEvent, useState } from "react";
import { StateWord } from "../../instruments/StateMark";
import { RefusalWords } from "../../parts/RefusalWords";
import { TextField, Tick } from "../../parts/Value";
import type { Outlet, Refusal } from "../../service/client";
import { useJob } from "../../service/job";
import { type Typed, useRows } from "../../service/rows";
import { emptied } from "../../shell/emptied";

const FIELD = "h-8 rounded-sm border border-tick bg-field px-2";

/** Outlets with floor and wanted services. */
export function Outlets() {
  const { view } = useJob();
  const outlets = useRows("outlets");
  const rows = view.job.outlets ?? [];
  const [name, setName] = useState("");
  const [floor, setFloor] = useState("");
  const [refused, refuse] = useState<Refusal | null>(null);
  const add = async (e: FormEvent) => {
    e.preventDefault();
    const said = await outlets.add({ name, floor });
    refuse(said);
    if (!said) setName(emptied(name));
  };
  return (
    <section aria-label="Outlets" className="overflow-x-auto">
      <table className="w-full border-collapse text-[13px]">
        <thead>
          <tr className="border-line border-b text-quiet">
            <th scope="col" className="py-1.5 font-bold text-[15px] text-ink">
              Outlets
            </th>
            <th scope="col">floor</th>
            <th scope="col">terrestrial</th>
            <th scope="col">satellite</th>
            <th scope="col">signal there</th>
            <th scope="col">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((o) => (
            <Row key={o.id} o={o} />
          ))}
        </tbody>
      </table>
      <form onSubmit={add} className="mt-2 flex flex-wrap items-center gap-3 text-[13px]">
        <b>+</b>
        <label>
          <span className="sr-only">Outlet name</span>
          <input
            className={FIELD}
            required
            placeholder="room"
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <label>
          <span className="sr-only">Floor</span>
          <input
            className={FIELD}
            placeholder="floor"
            value={floor}
            onChange={(e) => setFloor(e.target.value)}
          />
        </label>
        <button type="submit" className="plain-button">
          Add outlet
        </button>
        {refused && (
          <span role="alert" className="text-brick">
            <RefusalWords it={refused} />
          </span>
        )}
      </form>
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
        <button
          type="button"
          className="underline"
          aria-label={`Remove ${o.name}`}
          onClick={remove}
        >
          remove
        </button>
      </td>
    </tr>
  );
}
