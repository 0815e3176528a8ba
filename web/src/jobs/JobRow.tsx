import { Link } from "wouter";
import { StateMark, WORD } from "../instruments/StateMark";
import { solidTo } from "../parts/stations";
import type { JobSummary } from "../service/client";
import { Say } from "../units/showing";

/** A job in the list: its names, its path, what is next, and what can be done with it whole. */
export function JobRow({ job, onRemove }: { job: JobSummary; onRemove: () => void }) {
  return (
    <>
      <div className="min-w-0 pr-4">
        <Link to={`/jobs/${job.id}/site`} className="font-semibold text-body">
          {job.name || "without a name"}
        </Link>
        <span className="block text-muted">{job.place}</span>
      </div>
      <div>
        {job.broken ? (
          <span className="wrap-anywhere text-fail">
            <b>does not open:</b> {job.broken}
          </span>
        ) : (
          <MiniSpine job={job} />
        )}
      </div>
      <div className="pr-4">
        {job.broken
          ? "Export it, undo in it, or remove it."
          : job.stations.length
            ? (job.next?.length && <Say it={job.next} />) || "nothing is open"
            : "being worked out"}
      </div>
      <div className="num whitespace-nowrap pr-4 text-right text-muted max-md:text-left">
        {job.kept_at.slice(0, 16).replace("T", " ")}
      </div>
      <div className="whitespace-nowrap text-right max-md:text-left">
        <a
          href={`/api/jobs/${job.id}/export`}
          download
          className="mr-3"
          aria-label={`Export ${job.name}`}
        >
          Export
        </a>
        <button
          type="button"
          className="underline"
          aria-label={`Remove ${job.name}`}
          onClick={onRemove}
        >
          Remove
        </button>
      </div>
    </>
  );
}

function MiniSpine({ job }: { job: JobSummary }) {
  const solid = solidTo(job.stations);
  const x = (i: number) => 14 + i * 34;
  return (
    <span className="relative block h-7 w-[276px]">
      <svg width="276" height="28" aria-hidden="true" className="absolute">
        <line
          x1="0"
          x2={x(Math.min(solid, 7))}
          y1="14"
          y2="14"
          stroke="var(--color-copper)"
          strokeWidth="3"
        />
        <line
          x1={x(Math.min(solid, 7))}
          x2={x(7)}
          y1="14"
          y2="14"
          stroke="var(--color-copper)"
          strokeWidth="3"
          strokeDasharray="6 5"
        />
      </svg>
      {job.stations.map((s, i) => (
        <Link
          key={s.key}
          to={`/jobs/${job.id}/${s.key}`}
          aria-label={`${s.name}, ${WORD[s.state]}, ${s.figure}`}
          title={`${s.name}: ${WORD[s.state]}, ${s.figure}`}
          className="absolute top-0.5 grid h-6 w-6 place-items-center bg-sheet"
          style={{ left: x(i) - 12 }}
        >
          <StateMark state={s.state} />
        </Link>
      ))}
    </span>
  );
}
