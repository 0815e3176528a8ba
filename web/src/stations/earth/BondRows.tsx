import { BracketGauge } from "../../instruments/BracketGauge";
import { StateWord } from "../../instruments/StateMark";
import { RemoveButton } from "../../parts/rows";
import { Choice, NumberField, TextField, Tick } from "../../parts/Value";
import type { Bond } from "../../service/client";
import { type RowOf, type Typed, useRows } from "../../service/rows";
import { Say, useShown } from "../../units/showing";
import { textOf } from "../../units/units";

const MATERIALS = [
  ["copper", "copper"],
  ["aluminium", "aluminium"],
  ["steel", "steel"],
  ["copper_clad_steel", "copper-clad steel"],
] as const;

/** A conductor that the school asks for, stretch by stretch from its beginning. */
export function BondRows({ b }: { b: Bond }) {
  const conductors = useRows("conductors");
  const stretches = b.stretches.flatMap((id) => conductors.rows.filter((c) => c.id === id));
  const goesOn = () =>
    conductors.add({
      role: b.role,
      after: b.stretches.at(-1) ?? null,
      begins: stretches.at(-1)?.ends ?? "",
    });
  const first = (
    <>
      <td>
        {b.needed ? <StateWord state={b.state} /> : <span className="text-muted">not asked</span>}
      </td>
      <th scope="row" className="py-2 pr-4">
        <b>{b.name}</b>
        <span className="block text-muted">{b.joins}</span>
        {b.conductor && (
          <button
            type="button"
            className="link"
            aria-label={`${b.name} goes on`}
            onClick={() => void goesOn()}
          >
            + goes on
          </button>
        )}
        {b.conductor && b.points.length > 1 && (
          <Choice
            label={`${b.name} begins at`}
            value={b.part ?? ""}
            options={[
              ["", "a bar for all of them"],
              ...b.points.map(([id, name]) => [id, name] as const),
            ]}
            width={190}
            onChange={(part) => conductors.set(b.conductor ?? "", { part: part || null })}
          />
        )}
      </th>
      <td className="min-w-[150px] max-w-[190px] pr-3">
        <Say it={b.asked} />
        {b.bends.high != null && b.conductor && (
          <span className="block text-muted">at most {b.bends.high} bends</span>
        )}
      </td>
    </>
  );
  if (!stretches.length)
    return (
      <tr className="border-line border-b">
        {first}
        <td colSpan={5}>
          <button
            type="button"
            className="plain-button"
            onClick={() => conductors.add({ role: b.role, part: b.part })}
          >
            Plan this conductor
          </button>
        </td>
        <td className="text-muted">{b.origin}</td>
      </tr>
    );
  return (
    <>
      {stretches.map((c, n) => (
        <tr key={c.id} className={n === stretches.length - 1 ? "border-line border-b" : ""}>
          {n === 0 ? first : <td colSpan={3} />}
          <Stretch
            c={c}
            name={n ? `${b.name}, stretch ${n + 1}` : b.name}
            size={n === 0 ? b.size : null}
          />
          <td className="text-muted">
            <span className="flex items-start justify-between gap-3">
              <span>
                {n === 0 && b.origin}
                {n > 0 && n === stretches.length - 1 && <Whole b={b} />}
              </span>
              <RemoveButton
                label={`Remove ${n ? `stretch ${n + 1} of ` : ""}${b.name}`}
                remove={() => conductors.remove(c.id)}
              />
            </span>
          </td>
        </tr>
      ))}
    </>
  );
}

function Whole({ b }: { b: Bond }) {
  const at = useShown();
  return (
    <span className="num block">
      {textOf({ value: b.length.value ?? 0, unit: "m", digits: 1 }, at)} in all,{" "}
      {b.bends.value ?? 0} bends{" "}
    </span>
  );
}

/** One stretch: from where to where, of what, how long, with how many bends, joined or not. */
function Stretch({
  c,
  name,
  size,
}: {
  c: RowOf<"conductors">;
  name: string;
  /** The thinnest of the whole against its rule, at the first. */
  size: Bond["size"] | null;
}) {
  const conductors = useRows("conductors");
  const set = (body: Typed<RowOf<"conductors">>) => conductors.set(c.id, body);
  return (
    <>
      <td className="py-1">
        <TextField
          label={`${name} from`}
          value={c.begins ?? ""}
          width={104}
          placeholder="from"
          commit={(begins) => set({ begins })}
        />
        <TextField
          label={`${name} to`}
          value={c.ends ?? ""}
          width={104}
          placeholder="to"
          commit={(ends) => set({ ends })}
        />
      </td>
      <td>
        <Choice
          label={`${name} material`}
          value={c.material ?? "copper"}
          options={MATERIALS}
          width={112}
          onChange={(material) => set({ material })}
        />
      </td>
      <td className="text-right">
        <NumberField
          label={`${name} size`}
          value={c.size_mm2}
          unit="mm2"
          digits={1}
          width={48}
          commit={(t) => set({ size_mm2: t })}
        />
        {size && <BracketGauge gauge={size} width={64} />}
      </td>
      <td className="whitespace-nowrap text-right">
        <NumberField
          label={`${name} length`}
          value={c.length_m}
          unit="m"
          width={48}
          commit={(t) => set({ length_m: t })}
        />
        <span className="block text-muted">
          <NumberField
            label={`${name} bends`}
            value={c.bends ?? 0}
            unit="count"
            digits={0}
            width={24}
            commit={(t) => set({ bends: t })}
          />{" "}
          bends
        </span>
      </td>
      <td className="pl-4">
        <Tick
          label={`${name} joined`}
          hideLabel
          on={Boolean(c.connected)}
          onChange={(connected) => set({ connected })}
        />
      </td>
    </>
  );
}
