import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Why } from "../parts/Value";
import { client, type JobSummary, type Refusal } from "../service/client";
import { told } from "../service/refusals";

/** Asks before a job is removed, names what is removed, and says that it can be taken back. */
export function AskRemove({
  job,
  onClose,
  onRemoved,
}: {
  job: JobSummary;
  onClose: () => void;
  onRemoved: () => void;
}) {
  const [refused, refuse] = useState<Refusal | null>(null);
  const [revision, see] = useState(job.revision);
  const remove = async () => {
    const at = { header: { "if-match": String(revision) }, path: { job_id: job.id } };
    try {
      await told(client.DELETE("/api/jobs/{job_id}", { params: at }));
      onRemoved();
    } catch (said) {
      const refusal = said as Refusal;
      refuse(refusal);
      // Asked again, it is asked of the newest state.
      if (refusal.revision != null) see(refusal.revision);
    }
  };
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel className="w-full max-w-md border-fail border-t-[3px] bg-sheet p-5">
          <DialogTitle className="m-0 font-semibold text-lead">Remove {job.name}?</DialogTitle>
          <p className="mt-2 mb-4">
            Its revision {revision}
            {job.place && `, ${job.place}`}, with its whole history. For thirty days it can be taken
            back from this page.
          </p>
          <Why refused={refused} />
          <div className="mt-4 flex justify-end gap-3">
            <button type="button" className="plain-button" onClick={onClose}>
              Keep it
            </button>
            <button type="button" className="copper-button h-9" onClick={remove}>
              Remove revision {revision}
            </button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}

/** Jobs of the last thirty days that were removed. */
export function Removed({ onBack }: { onBack: () => void }) {
  const [refused, refuse] = useState<Refusal | null>(null);
  const found = useQuery({
    queryKey: ["removed"],
    staleTime: 0,
    queryFn: () => told(client.GET("/api/jobs/removed")),
  });
  const jobs = found.data ?? [];
  if (!jobs.length) return null;
  const back = async (job_id: string) => {
    try {
      await told(client.POST("/api/jobs/{job_id}/take-back", { params: { path: { job_id } } }));
      refuse(null);
      onBack();
    } catch (said) {
      refuse(said as Refusal);
    }
  };
  return (
    <details className="mt-6 text-dense">
      <summary className="py-1">Removed in the last thirty days: {jobs.length}</summary>
      <ul className="m-0 list-none p-0">
        {jobs.map((job) => (
          <li
            key={job.id}
            className="flex flex-wrap items-baseline gap-x-4 border-line border-b py-2"
          >
            <b>{job.name}</b>
            <span className="text-muted">{job.place}</span>
            <span className="num text-muted">until {job.until}</span>
            <button
              type="button"
              className="ml-auto underline"
              aria-label={`Take back ${job.name}`}
              onClick={() => back(job.id)}
            >
              Take back
            </button>
          </li>
        ))}
      </ul>
      <Why refused={refused} />
    </details>
  );
}
