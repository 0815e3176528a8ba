import { useQuery } from "@tanstack/react-query";
import { ArrowDown, ArrowUp, X } from "lucide-react";
import { useDeferredValue, useState } from "react";
import { Link } from "wouter";
import { clock } from "../instruments/DayChart";
import { Cell, Head } from "../parts/table";
import { Choice, TextField } from "../parts/Value";
import { client, type DayEdit, type DayView, type JobList, type Refusal } from "../service/client";
import { told } from "../service/refusals";
import { Say } from "../units/showing";
import { edited, lasts, reordered } from "./order";

/** The visits in their order: the road to each, when one is there, what cannot be so; and one more job. */
export function Visits({
  day,
  change,
  travel,
}: {
  day: DayView;
  change: (edit: Partial<DayEdit>) => unknown;
  travel: (edit: Partial<DayEdit>) => Promise<Refusal | null>;
}) {
  const order = day.visits.map((v) => v.job);
  const swap = (n: number, by: number) => {
    const next = [...order];
    const [job] = next.splice(n, 1);
    next.splice(n + by, 0, job!);
    return change({ visits: reordered(day, next) });
  };
  const drop = (job: string) =>
    change({
      visits: reordered(
        day,
        order.filter((k) => k !== job),
      ),
    });
  const road = (job: string, text: string) =>
    travel({ visits: edited(day).map((v) => (v.job === job ? { ...v, travel: text } : v)) });
  return (
    <section aria-label="Visits" className="no-print mt-3 overflow-x-auto">
      {day.visits.length > 0 && (
        <table className="w-full border-collapse text-dense">
          <thead>
            <tr className="border-line border-b text-muted">
              <Head>Visit</Head>
              <Head right>road, min</Head>
              <Head right>there at</Head>
              <Head right>work</Head>
              <Head right>away at</Head>
              <Head>what cannot be so</Head>
              <Head>order</Head>
            </tr>
          </thead>
          <tbody>
            {day.visits.map((v, n) => (
              <tr key={v.job} className="border-line border-b">
                <Cell>
                  {v.missing ? v.name : <Link to={`/jobs/${v.job}/site/do`}>{v.name}</Link>}
                </Cell>
                <Cell right>
                  <TextField
                    label={`Road to ${v.name}, min`}
                    value={v.estimated ? "" : String(v.road_min)}
                    placeholder={`about ${Math.round(v.road_min)}`}
                    width={72}
                    commit={(text) => road(v.job, text)}
                  />
                </Cell>
                <Cell right>{v.missing ? "" : clock(v.arrives)}</Cell>
                <Cell right>{lasts(v.work_min)}</Cell>
                <Cell right>{v.missing ? "" : clock(v.leaves)}</Cell>
                <Cell>
                  {v.clashes.map((c, i) => (
                    <span key={i} className="text-fail">
                      {i > 0 && "; "}
                      <Say it={c} />
                    </span>
                  ))}
                </Cell>
                <Cell>
                  <span className="flex gap-1">
                    <Small label={`${v.name} earlier`} off={n === 0} run={() => swap(n, -1)}>
                      <ArrowUp size={16} aria-hidden="true" />
                    </Small>
                    <Small
                      label={`${v.name} later`}
                      off={n === order.length - 1}
                      run={() => swap(n, 1)}
                    >
                      <ArrowDown size={16} aria-hidden="true" />
                    </Small>
                    <Small label={`Take ${v.name} off the day`} run={() => drop(v.job)}>
                      <X size={16} aria-hidden="true" />
                    </Small>
                  </span>
                </Cell>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <AddJob
        taken={order}
        add={(job) => change({ visits: [...edited(day), { job, travel: "" }] })}
      />
    </section>
  );
}

function Small({
  label,
  off = false,
  run,
  children,
}: {
  label: string;
  off?: boolean;
  run: () => unknown;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      disabled={off}
      onClick={() => void run()}
      className="grid h-8 w-8 place-items-center rounded-sm border border-tick max-md:h-11 max-md:w-11"
    >
      {children}
    </button>
  );
}

const MOST = 200;

/** One more job, the newest first; among many it is looked for by name, place or customer. */
function AddJob({ taken, add }: { taken: string[]; add: (job: string) => unknown }) {
  const [find, look] = useState("");
  const asked = useDeferredValue(find);
  const jobs = useQuery({
    queryKey: ["jobs", "for-a-day", asked],
    staleTime: 0,
    placeholderData: (old) => old,
    queryFn: () =>
      told(
        client.GET("/api/jobs", {
          params: { query: { find: asked, first: 0, most: MOST } as never },
        }),
      ) as Promise<JobList>,
  });
  const rest = (jobs.data?.jobs ?? []).filter((j) => !taken.includes(j.id) && !j.broken);
  const many = find !== "" || (jobs.data?.total ?? 0) > MOST;
  if (!rest.length && !many) return null;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3 text-dense">
      <Choice
        label="Add a job to the day"
        value=""
        options={[
          ["", rest.length ? "Add a job to the day" : "No such job"],
          ...rest.map((j) => [j.id, j.place ? `${j.name}, ${j.place}` : j.name] as const),
        ]}
        onChange={(job) => job && add(job)}
      />
      {many && (
        <input
          aria-label="Find a job for the day"
          value={find}
          onChange={(e) => look(e.target.value)}
          placeholder="find among all"
          className="h-8 w-44 rounded-sm border border-tick bg-field px-2"
        />
      )}
    </div>
  );
}
