import { BEHIND } from "../parts/behind";
import { Choice } from "../parts/Value";
import type { Step } from "../service/client";
import { useJob } from "../service/job";
import { useRows } from "../service/rows";
import { useStationWrites } from "../stations/edits";

/** What the detector found behind a wall, at the step that looks there or drills. */
export function BehindIt({ step }: { step: Step }) {
  const job = useJob("mast");
  const { mast } = useStationWrites();
  const links = useRows("links");
  const hole = /^coax\.(l\d+)\.hole$/.exec(step.key)?.[1];
  if (step.key !== "site.hidden" && !hole) return null;
  const link = links.rows.find((l) => l.id === hole);
  const value = (hole ? link?.behind : job.mast?.behind) ?? "unknown";
  return (
    <div className="flex flex-wrap items-center justify-between gap-2 text-body">
      <b>Behind the hole lies</b>
      <Choice
        label="Behind the hole lies"
        value={value}
        options={BEHIND}
        width={190}
        onChange={(behind) => (hole ? links.set(hole, { behind }) : mast({ behind }))}
      />
    </div>
  );
}
