import { type FormEvent, useState } from "react";
import { RefusalWords } from "../../parts/RefusalWords";
import type { Refusal } from "../../service/client";
import { useJob } from "../../service/job";
import { useRows } from "../../service/rows";

const FIELD = "h-8 rounded-sm border border-tick bg-field px-2";

/** Hang another antenna, for a target. */
export function AddAntenna() {
  const { view } = useJob();
  const rows = { dish: useRows("dishes"), array: useRows("arrays") };
  const targets = view.job.targets ?? [];
  const [kind, setKind] = useState<"dish" | "array">("dish");
  const [target, setTarget] = useState("");
  const [refused, refuse] = useState<Refusal | null>(null);
  const add = async (e: FormEvent) => {
    e.preventDefault();
    const count = rows[kind].rows.length + 1;
    const name = `${kind === "dish" ? "Dish" : "Array"}${count > 1 ? ` ${count}` : ""}`;
    refuse(await rows[kind].add({ name, target: target || null }));
  };
  return (
    <form onSubmit={add} className="flex flex-wrap items-center gap-3 text-[13px]">
      <b>+</b>
      <label>
        <span className="sr-only">Kind of antenna</span>
        <select
          className={FIELD}
          value={kind}
          onChange={(e) => setKind(e.target.value as typeof kind)}
        >
          <option value="dish">dish</option>
          <option value="array">array</option>
        </select>
      </label>
      <label>
        for{" "}
        <select
          className={FIELD}
          value={target}
          aria-label="Antenna's target"
          onChange={(e) => setTarget(e.target.value)}
        >
          <option value="">no target yet</option>
          {targets.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="plain-button">
        Add antenna
      </button>
      {refused && (
        <span role="alert" className="text-brick">
          <RefusalWords it={refused} />
        </span>
      )}
    </form>
  );
}
