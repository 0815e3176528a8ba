import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { StateMark, WORD } from "../instruments/StateMark";
import { FilePick, Why } from "../instruments/Value";
import { client, type JobSummary, type Refusal } from "../service/client";
import { OuterFrame } from "../shell/OuterFrame";
import { useSettings } from "../shell/settings";
import { solidTo } from "../shell/stations";

export default function Jobs() {
  const cache = useQueryClient();
  const jobs = useQuery({
    queryKey: ["jobs"],
    staleTime: 0,
    queryFn: async () => (await client.GET("/api/jobs")).data ?? [],
  });
  const [refusal, refuse] = useState<Refusal | null>(null);
  const go = useNavigate();

  const take = async (chosen: File) => {
    const text = await chosen.slice(0, 21_000_000).arrayBuffer();
    const answer = await fetch("/api/jobs/import", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: text,
    });
    const body = await answer.json();
    if (answer.ok) go(`/jobs/${body.id}/site`);
    else refuse(body as Refusal);
  };
  const remove = async (job: JobSummary) => {
    if (
      !window.confirm(`Remove ${job.name} with its whole history? Export it first to keep a copy.`)
    )
      return;
    await client.DELETE("/api/jobs/{job_id}", { params: { path: { job_id: job.id } } });
    cache.invalidateQueries({ queryKey: ["jobs"] });
  };
  return (
    <OuterFrame
      title="Jobs"
      action={
        <>
          <Link to="/quick" className="plain-button mr-3 inline-block no-underline">
            Quick aim
          </Link>
          <FilePick label="Job file" accept=".json" onFile={(chosen) => take(chosen)}>
            Import a job file
          </FilePick>
        </>
      }
    >
      <Why refused={refusal} />
      <NewJob />
      <table className="mt-6 w-full border-collapse text-[13px]">
        <caption className="sr-only">Jobs, the newest change first</caption>
        <thead>
          <tr className="border-line border-b text-quiet">
            <th scope="col" className="py-1.5 font-semibold text-ink">
              Job
            </th>
            <th scope="col">its path, from Site to Handover</th>
            <th scope="col">next</th>
            <th scope="col" className="text-right">
              kept
            </th>
            <th scope="col">
              <span className="sr-only">Files</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {(jobs.data ?? []).map((job) => (
            <tr key={job.id} className="border-line border-b">
              <th scope="row" className="py-3 pr-4">
                <Link to={`/jobs/${job.id}/site`} className="font-semibold text-[15px]">
                  {job.name}
                </Link>
                <span className="block text-quiet">{job.place}</span>
              </th>
              <td className="pr-4">
                <MiniSpine job={job} />
              </td>
              <td className="max-w-[260px] pr-4">{job.next || "nothing is open"}</td>
              <td className="num whitespace-nowrap pr-4 text-right text-quiet">
                {job.kept_at.slice(0, 16).replace("T", " ")}
              </td>
              <td className="whitespace-nowrap text-right">
                <a href={`/api/jobs/${job.id}/export`} download className="mr-3">
                  Export
                </a>
                <button type="button" className="underline" onClick={() => remove(job)}>
                  Remove
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {jobs.data?.length === 0 && (
        <p className="text-quiet">No jobs yet. Name the first one above.</p>
      )}
    </OuterFrame>
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

function NewJob() {
  const { profiles } = useSettings();
  const go = useNavigate();
  const [name, setName] = useState("");
  const [place, setPlace] = useState("");
  const [profile, setProfile] = useState("europe");
  const [refusal, refuse] = useState<Refusal | null>(null);
  const make = async (e: FormEvent) => {
    e.preventDefault();
    const { data, error } = await client.POST("/api/jobs", { body: { name, place, profile } });
    if (data) go(`/jobs/${data.id}/site`);
    else refuse(error as Refusal);
  };
  return (
    <form onSubmit={make} className="flex flex-wrap items-end gap-4">
      <label className="text-[13px]">
        <span className="block text-quiet">New job</span>
        <input
          value={name}
          onChange={(e) => setName(e.target.value)}
          required
          maxLength={80}
          placeholder="Name"
          className="h-9 w-56 rounded-sm border border-tick bg-field px-2 text-[15px]"
        />
      </label>
      <label className="text-[13px]">
        <span className="block text-quiet">Place</span>
        <input
          value={place}
          onChange={(e) => setPlace(e.target.value)}
          maxLength={80}
          className="h-9 w-48 rounded-sm border border-tick bg-field px-2 text-[15px]"
        />
      </label>
      <label className="text-[13px]">
        <span className="block text-quiet">Practice</span>
        <select
          value={profile}
          onChange={(e) => setProfile(e.target.value)}
          className="h-9 rounded-sm border border-tick bg-field px-2 text-[15px]"
        >
          {profiles.map((p) => (
            <option key={p.key} value={p.key}>
              {p.name}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="copper-button h-9">
        Start the job
      </button>
      {refusal && (
        <span role="alert">
          {refusal.detail} {refusal.remedy}
        </span>
      )}
    </form>
  );
}
