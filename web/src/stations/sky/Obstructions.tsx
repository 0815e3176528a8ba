import { RemoveButton, RemoveHead } from "../../parts/rows";
import { Choice, NumberField, TextField } from "../../parts/Value";
import type { Obstruction } from "../../service/client";
import { useAnswers, useJob } from "../../service/job";
import { useRows } from "../../service/rows";
import { useShown } from "../../units/showing";
import { unitName } from "../../units/units";

const OUTLINES = [
  ["ridge", "ridge"],
  ["gable", "gable"],
  ["crowns", "crowns"],
  ["block", "block"],
  ["eave", "eave, hangs"],
] as const;

const NATURES = [
  ["fixed", "stays"],
  ["evergreen", "evergreen"],
  ["leafy", "sheds leaves"],
  ["own", "own house"],
] as const;

/** What is in the way, as rows; the last row takes one typed line. */
export function Obstructions() {
  const job = useJob("obstructions");
  const obstructions = useRows("obstructions");
  const rows = job.obstructions ?? [];
  const at = useShown();
  const m = unitName("m", at);
  const add = (typed: string) => {
    // A bare distance is read in the unit that stands over its column.
    const bare = at.units === "us" && /(?:at|@)\s*[\d.,]+\s*$/i.test(typed);
    const line = bare ? `${typed.trimEnd()} ft` : typed;
    return obstructions.add({ line });
  };
  return (
    <section aria-label="In the way" className="overflow-x-auto">
      <table className="w-full min-w-[640px] border-collapse text-dense">
        <thead>
          <tr className="border-line border-b text-muted">
            <th scope="col" className="w-8">
              <span className="sr-only">Letter</span>
            </th>
            <th scope="col" className="py-1.5 font-bold text-body text-ink">
              In the way
            </th>
            <th scope="col">outline</th>
            <th scope="col">kind</th>
            <th scope="col" className="text-right">
              from °T
            </th>
            <th scope="col" className="text-right">
              to °T
            </th>
            <th scope="col" className="text-right">
              up to °
            </th>
            <th scope="col" className="text-right">
              away {m}
            </th>
            <th scope="col" className="text-right">
              above {m}
            </th>
            <th scope="col" className="text-right">
              {m}/yr
            </th>
            <th scope="col" className="text-right">
              now °
            </th>
            <RemoveHead />
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Line key={row.id} row={row} />
          ))}
        </tbody>
      </table>
      <p className="m-0 mt-2 flex max-w-[calc(100vw-80px)] flex-wrap items-baseline gap-x-3 text-dense">
        <b>+</b>
        <TextField
          label="Add what is in the way"
          value=""
          width={260}
          commit={add}
          clearAfter
          placeholder="barn 212 224 11"
        />
        <span className="text-muted">
          name, from, to °T, top angle; or barn 212 224{" "}
          {at.units === "us" ? "26ft at 130ft" : "8m at 40m"}
        </span>
      </p>
    </section>
  );
}

function Line({ row }: { row: Obstruction }) {
  const answers = useAnswers("sky");
  const obstructions = useRows("obstructions");
  const shape = answers.sky.skyline.find((s) => s.id === row.id);
  const set = (body: Record<string, string>) => obstructions.set(row.id, body);
  const remove = () => obstructions.remove(row.id);
  const cell = "py-1 text-right";
  return (
    <tr className="border-line border-b">
      <th scope="row" className="font-bold">
        {shape?.letter}
      </th>
      <td className="py-1">
        <TextField
          label={`Name of ${shape?.letter}`}
          value={row.name}
          width={104}
          commit={(t) => set({ name: t })}
        />
      </td>
      <td>
        <Choice
          label={`Outline of ${row.name}`}
          value={row.outline ?? "block"}
          options={OUTLINES}
          width={76}
          onChange={(v) => set({ outline: v })}
        />
      </td>
      <td>
        <Choice
          label={`Kind of ${row.name}`}
          value={row.nature ?? "fixed"}
          options={NATURES}
          width={106}
          onChange={(v) => set({ nature: v })}
        />
      </td>
      <td className={cell}>
        <NumberField
          label={`${row.name} from`}
          value={row.from_deg}
          unit="deg_true"
          showUnit={false}
          width={44}
          commit={(t) => set({ from_deg: t })}
        />
      </td>
      <td className={cell}>
        <NumberField
          label={`${row.name} to`}
          value={row.to_deg}
          unit="deg_true"
          showUnit={false}
          width={44}
          commit={(t) => set({ to_deg: t })}
        />
      </td>
      <td className={cell}>
        <NumberField
          label={`${row.name} up to`}
          value={row.top_deg}
          unit="deg"
          showUnit={false}
          width={44}
          commit={(t) => set({ top_deg: t })}
        />
      </td>
      <td className={cell}>
        <NumberField
          label={`${row.name} away`}
          value={row.distance_m}
          unit="m"
          showUnit={false}
          width={48}
          commit={(t) => set({ distance_m: t })}
        />
      </td>
      <td className={cell}>
        <NumberField
          label={`${row.name} above the antenna`}
          value={row.above_m}
          unit="m"
          showUnit={false}
          width={48}
          commit={(t) => set({ above_m: t })}
        />
      </td>
      <td className={cell}>
        <NumberField
          label={`${row.name} grows a year`}
          value={row.growth_m_year}
          unit="m"
          digits={2}
          showUnit={false}
          width={36}
          commit={(t) => set({ growth_m_year: t })}
        />
      </td>
      <td className="num text-right">{shape ? shape.top_deg.toFixed(1) : ""}</td>
      <td className="pl-1">
        <RemoveButton mark label={`Remove ${row.name}`} remove={remove} />
      </td>
    </tr>
  );
}
