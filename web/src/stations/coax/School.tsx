import { Title } from "../../parts/table";
import { Choice } from "../../parts/Value";
import { useJob } from "../../service/job";
import { useSingle } from "../../service/rows";

const PORTS = [
  ["capped", "are capped with 75 ohm"],
  ["left", "are left as they are"],
] as const;
const SLACK = [
  ["loop", "lies in a service loop"],
  ["short", "is cut off: as short as it goes"],
  ["coil", "stays a coil for now"],
] as const;
const CONNECTORS = [
  ["by_place", "fixed: by spanner, portable: by fingers"],
  ["spanner", "by spanner"],
  ["fingers", "by fingers only"],
] as const;

/** Where practitioners differ: which school this job follows, and why the default is what it is. */
export function School() {
  const job = useJob("run_school");
  const set = useSingle("run_school");
  const s = job.run_school!;
  return (
    <section aria-label="Schools of the run" className="mt-4 max-w-4xl text-dense">
      <Title>Where practitioners differ</Title>
      <ul className="m-0 list-none p-0">
        <li className="grid grid-cols-[410px_1fr] items-baseline gap-x-6 border-line border-b py-1 max-md:grid-cols-1">
          <span>
            Unused ports{" "}
            <Choice
              label="Unused ports"
              value={s.open_ports ?? "capped"}
              options={PORTS}
              onChange={(open_ports) => set({ open_ports })}
            />
          </span>
          <span className="text-muted">
            Capped by default: what comes back from an open port is told as echo either way.
          </span>
        </li>
        <li className="grid grid-cols-[410px_1fr] items-baseline gap-x-6 border-line border-b py-1 max-md:grid-cols-1">
          <span>
            Spare cable{" "}
            <Choice
              label="Spare cable"
              value={s.slack ?? "loop"}
              options={SLACK}
              onChange={(slack) => set({ slack })}
            />
          </span>
          <span className="text-muted">
            A loop by default: a connector can be made once more, and what it loses is counted.
          </span>
        </li>
        <li className="grid grid-cols-[410px_1fr] items-baseline gap-x-6 border-line border-b py-1 max-md:grid-cols-1">
          <span>
            Connectors{" "}
            <Choice
              label="Connectors"
              value={s.connectors ?? "by_place"}
              options={CONNECTORS}
              onChange={(connectors) => set({ connectors })}
            />
          </span>
          <span className="text-muted">
            Outdoors water creeps into what is loose; what travels is taken off again every day.
          </span>
        </li>
      </ul>
    </section>
  );
}
