import { useState } from "react";
import { AddRow, NewChoice } from "../parts/rows";
import { useJob } from "../service/job";
import { useRows } from "../service/rows";

const KINDS = [
  ["dish", "dish"],
  ["array", "array"],
] as const;

/** Hang another antenna, for a target. */
export function AddAntenna() {
  const job = useJob("targets");
  const rows = { dish: useRows("dishes"), array: useRows("arrays") };
  const [kind, setKind] = useState<"dish" | "array">("dish");
  const [target, setTarget] = useState("");
  const targets = (job.targets ?? []).map((t) => [t.id, t.name] as const);
  const add = () => {
    const count = rows[kind].rows.length + 1;
    const name = `${kind === "dish" ? "Dish" : "Array"}${count > 1 ? ` ${count}` : ""}`;
    return rows[kind].add({ name, target: target || null });
  };
  return (
    <AddRow button="Add antenna" add={add}>
      <NewChoice label="Kind of antenna" value={kind} change={setKind} options={KINDS} />
      <span aria-hidden="true">for</span>
      <NewChoice
        label="Antenna's target"
        value={target}
        change={setTarget}
        options={[["", "no target yet"], ...targets]}
      />
    </AddRow>
  );
}
