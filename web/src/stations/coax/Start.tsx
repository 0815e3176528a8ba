import { useJob, useWrites } from "../../service/job";
import { antennasOf } from "../antennas";

/** Antennas that are not in the run yet: start the network at each. */
export function Start({ onAdded }: { onAdded: (part: string) => void }) {
  const { make } = useWrites();
  const job = useJob("arrays", "dishes", "parts");
  const placed = new Set((job.parts ?? []).map((p) => p.antenna));
  const antennas = antennasOf(job);
  const left = antennas.filter((a) => !placed.has(a.id));
  if (!left.length) {
    return antennas.length || (job.parts ?? []).length ? null : (
      <p className="m-0 mb-3">No antenna yet: add one at Mast, then start the run here.</p>
    );
  }
  const start = async (antenna: string, type: string) => {
    const done = await make({
      verb: "insert",
      type,
      antenna,
      cable: "rg6",
      length_m: 0.5,
      called: "$new",
    });
    const added = done.named.$new;
    if (added) onAdded(added);
  };
  return (
    <ul className="m-0 mb-3 list-none p-0 text-dense">
      {left.map((a) => (
        <li key={a.id} className="flex flex-wrap items-center gap-2 border-line border-b py-2">
          <b>{a.name}</b> is not in the run. Start at
          {a.kind === "array" ? (
            <button type="button" className="plain-button" onClick={() => start(a.id, "antenna")}>
              its terminals
            </button>
          ) : (
            [
              ["lnb-single", "an LNB with one output"],
              ["lnb-four", "an LNB with four fixed outputs"],
              ["lnb-single-1075", "an LNB with oscillator 10.75 GHz"],
            ].map(([type, name]) => (
              <button
                key={type}
                type="button"
                className="plain-button"
                onClick={() => start(a.id, type!)}
              >
                {name}
              </button>
            ))
          )}
        </li>
      ))}
    </ul>
  );
}
