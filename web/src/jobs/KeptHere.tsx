import { useEffect, useState } from "react";
import { Link } from "wouter";
import { type KeptJob, keptJobs } from "../service/kept";

/** The jobs that were opened on this device, for when the list cannot be had. */
export function KeptHere() {
  const [rows, show] = useState<KeptJob[]>([]);
  useEffect(() => void keptJobs().then(show), []);
  if (!rows.length) return null;
  return (
    <section aria-label="Kept on this device" className="mt-4">
      <h2 className="m-0 font-semibold text-lead">Kept on this device</h2>
      <ul className="m-0 list-none p-0">
        {rows.map(({ id, view }) => (
          <li key={id} className="border-line border-b">
            <Link to={`/jobs/${id}/site/do`} className="block py-3">
              <b>{view.job.name}</b>, {view.job.place}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
