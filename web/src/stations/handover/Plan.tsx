import { useQuery } from "@tanstack/react-query";
import { Answer, AnswerStrip, BigFigure } from "../../instruments/Figure";
import { StateWord } from "../../instruments/StateMark";
import { JobRegion } from "../../parts/JobRegion";
import { Problems } from "../../parts/Problems";
import { TextField, Tick } from "../../parts/Value";
import { client, type Section } from "../../service/client";
import { useAnswers, useJob, useJobId, useView } from "../../service/job";
import { told } from "../../service/refusals";
import { Say, useShown } from "../../units/showing";
import { useStationWrites } from "../edits";

export default function HandoverPlan() {
  const job = useJob("handover", "name", "place");
  const { handover, readings } = useAnswers("handover", "readings");
  const jobId = useJobId();
  const revision = useView((view) => view.revision);
  const { handover: write } = useStationWrites();

  const at = useShown();
  const sheet = useQuery({
    queryKey: ["sheet", jobId, revision],
    placeholderData: (old: Section[] | undefined) => old,
    queryFn: () =>
      told(client.GET("/api/jobs/{job_id}/sheet", { params: { path: { job_id: jobId } } })),
  });
  const h = job.handover!;
  return (
    <>
      <div className="no-print">
        <AnswerStrip>
          <Answer
            title="job sheet"
            more={
              handover.ready ? "all stations are in or near" : "something is out or not done yet"
            }
            state={handover.state}
          >
            <span className="text-large">{handover.figure}</span>
          </Answer>
          <Answer title="still open" more="problems over all stations">
            <BigFigure value={handover.open_points} unit="count" digits={0} />
          </Answer>
          <Answer title="readings" more="taken at the outlets">
            <span className="text-figure">
              {readings.taken} of {readings.wanted}
            </span>
          </Answer>
          <div className="flex flex-wrap items-center gap-2">
            <a
              className="copper-button no-underline"
              href={`/api/jobs/${jobId}/sheet.pdf?units=${at.units}&level=${at.level}`}
              target="_blank"
              rel="noreferrer"
            >
              Job sheet as PDF
            </a>
            <a className="plain-button no-underline" href={`/api/jobs/${jobId}/export`} download>
              Export the job
            </a>
          </div>
        </AnswerStrip>
        <div className="flex flex-wrap items-baseline gap-x-8 gap-y-2 border-line border-b px-6 py-3 text-dense max-md:px-4">
          <TextField
            label="Customer"
            hideLabel={false}
            value={h.customer ?? ""}
            width={160}
            commit={(t) => write({ customer: t })}
          />
          <TextField
            label="Installer"
            hideLabel={false}
            value={h.installer ?? ""}
            width={140}
            commit={(t) => write({ installer: t })}
          />
          <TextField
            label="Remarks"
            hideLabel={false}
            value={h.remarks ?? ""}
            width={300}
            commit={(t) => write({ remarks: t })}
          />
          <Tick
            label="Handed over to the customer"
            on={h.handed_over ?? false}
            onChange={(handed_over) => write({ handed_over })}
          />
        </div>
        {handover.problems.length > 0 && (
          <div className="px-6 py-4">
            <Problems rows={handover.problems} />
          </div>
        )}
      </div>
      <div className="bg-paper px-6 py-6 max-md:px-2 print:bg-sheet print:p-0">
        <article
          aria-label="Job sheet"
          className="mx-auto max-w-[794px] border border-line bg-sheet px-14 py-12 max-md:px-4 print:border-0 print:p-0"
        >
          <h2 className="m-0 font-bold text-large leading-8">{job.name}</h2>
          <p className="m-0 mb-4 text-muted">Job sheet. {job.place}</p>
          {(sheet.data ?? []).map((s) => (
            <JobRegion key={s.title} name={s.title}>
              <Part s={s} />
            </JobRegion>
          ))}
        </article>
      </div>
    </>
  );
}

function Part({ s }: { s: Section }) {
  return (
    <section className="mb-5">
      <h3 className="m-0 mb-1 font-bold text-lead">{s.title}</h3>
      <table className="w-full border-collapse text-dense leading-dense">
        <tbody>
          {s.lines.map((l, i) => (
            <tr key={i} className="border-line border-b align-top">
              {l.label.length > 0 ? (
                <th scope="row" className="w-[170px] py-1 pr-3 text-muted">
                  <Say it={l.label} />
                </th>
              ) : (
                <td className="w-[170px]" />
              )}
              <td className="py-1">
                <Say it={l.text} />
              </td>
              <td className="w-16 py-1 text-right">
                {l.state && <StateWord state={l.state} mark={false} />}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
