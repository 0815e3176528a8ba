import { Choice, NumberField, TextField } from "../../parts/Value";
import { useJob } from "../../service/job";
import { useStationWrites } from "../edits";

/** What was seen of overhead lines, where it is seen. */
export function Overhead() {
  const job = useJob("earth");
  const { earth: write } = useStationWrites();
  const e = job.earth!;
  const near = e.overhead_lines === "near";
  return (
    <div className="grid gap-1 pb-2">
      <Choice
        label="Overhead lines"
        value={e.overhead_lines ?? "unknown"}
        options={OVERHEAD}
        onChange={(overhead_lines) => write({ overhead_lines })}
        width={230}
      />
      {near && (
        <span className="flex flex-wrap items-baseline gap-x-4">
          <span>
            away{" "}
            <NumberField
              label="Overhead line away"
              value={e.line_distance_m}
              unit="m"
              commit={(t) => write({ line_distance_m: t })}
            />
          </span>
          <span>
            carries{" "}
            <NumberField
              label="Its voltage"
              value={e.line_kv}
              unit="kv"
              commit={(t) => write({ line_kv: t })}
              placeholder="ask"
            />
          </span>
        </span>
      )}
      {e.overhead_lines === "dead" && <LineDead />}
    </div>
  );
}

/** Who made a line dead, and who of us was told. */
export function LineDead() {
  const job = useJob("earth");
  const { earth: write } = useStationWrites();
  const e = job.earth!;
  return (
    <span className="grid gap-1">
      <span>
        made dead by{" "}
        <TextField
          label="Who made it dead"
          value={e.line_operator ?? ""}
          commit={(line_operator) => write({ line_operator })}
          placeholder="its operator"
        />
      </span>
      <span>
        confirmed to{" "}
        <TextField
          label="Who confirmed that it is dead"
          value={e.line_dead_confirmed ?? ""}
          commit={(line_dead_confirmed) => write({ line_dead_confirmed })}
          placeholder="name of who was told"
        />
      </span>
    </span>
  );
}

export const OVERHEAD = [
  ["unknown", "not looked yet"],
  ["none", "none near"],
  ["near", "there is one"],
  ["dead", "made dead by its operator"],
] as const;
