import { useQuery } from "@tanstack/react-query";
import { StateWord } from "../instruments/StateMark";
import { client } from "../service/client";
import { useJobId } from "../service/job";
import { told } from "../service/refusals";
import { Say } from "../units/showing";

/** What is forecast for the day on which this job is visited. */
export function Forecast() {
  const jobId = useJobId();
  const { data } = useQuery({
    queryKey: ["outlook", jobId],
    queryFn: async () =>
      (await told(
        client.GET("/api/jobs/{job_id}/forecast", { params: { path: { job_id: jobId } } }),
      )) ?? null,
    retry: false,
  });
  if (!data) return <p className="m-0 text-body text-muted">No forecast: this job is on no day.</p>;
  return (
    <p className="m-0 flex items-baseline gap-3 border-line border-y py-2 text-body">
      <span className="min-w-0 flex-1">
        <span className="num">{data.date}</span>. <Say it={data.words} />
      </span>
      <StateWord state={data.state} />
    </p>
  );
}
