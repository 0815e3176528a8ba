import { ChevronRight } from "lucide-react";
import { go } from "../parts/go";
import type { Step } from "../service/client";
import { useAnswers, useJobId } from "../service/job";
import { Say } from "../units/showing";
import type { TaskRecord } from "./NotSent";

/** While something takes its time: what can be done meanwhile, one tap away. */
export function Meanwhile({ step, marks }: { step: Step; marks: Map<string, TaskRecord> }) {
  const answers = useAnswers("steps");
  const jobId = useJobId();
  const stations = Object.entries(answers.steps);
  const keys = stations.flatMap(([, rows]) => rows);
  const waiting = keys.find((s) => (s.wait_min ?? 0) > 0 && running(s, marks.get(s.key)));
  if (!waiting) return null;
  const home = stations.find(([, rows]) => rows.some((s) => s.key === waiting.key))?.[0];
  const other = stations
    .filter(([name]) => name !== home)
    .flatMap(([name, rows]) => rows.map((row) => ({ name, row })))
    .find(
      ({ row }) => row.key !== step.key && !marks.get(row.key)?.at && !row.held_by && !row.danger,
    );
  const minutes = waiting.wait_min ?? 0;
  return (
    <div className="border-line border-t pt-2 text-body">
      <b>
        While {waiting.wait_for} takes its time,{" "}
        {minutes >= 90 ? `${Math.round(minutes / 60)} h` : `${minutes} min`}
      </b>
      {other && (
        <button
          type="button"
          className="flex min-h-11 w-full items-center gap-2 text-left"
          onClick={() => go(`/jobs/${jobId}/${other.name}/do?step=${other.row.key}`)}
        >
          <span className="min-w-0 flex-1">
            <Say it={other.row.title} />
          </span>
          <ChevronRight size={20} aria-hidden="true" />
        </button>
      )}
    </div>
  );
}

function running(step: Step, mark: TaskRecord | undefined): boolean {
  if (!mark?.at || mark.left_why) return false;
  const began = new Date(mark.at.replace(" ", "T")).getTime();
  return Date.now() - began < (step.wait_min ?? 0) * 60_000;
}
