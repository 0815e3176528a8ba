import { Cell, Head, Table, Title } from "../../parts/table";
import type { SunView } from "../../service/client";
import { useJobId } from "../../service/job";
import { figureOf } from "../../units/units";

const two = (n: number) => String(n).padStart(2, "0");

/** A moment in universal time, and as this device's clock shows it. */
export function moment(unix_s: number, seconds = false) {
  const d = new Date(unix_s * 1000);
  const tail = seconds ? `:${two(d.getUTCSeconds())}` : "";
  return {
    utc: `${two(d.getUTCHours())}:${two(d.getUTCMinutes())}${tail}`,
    here: `${two(d.getHours())}:${two(d.getMinutes())}`,
    day: `${d.getUTCFullYear()}-${two(d.getUTCMonth() + 1)}-${two(d.getUTCDate())}`,
  };
}

/** The sun as a tool: bearings without a compass, the view check, outages. */
export function Sun({ day, view }: { day: string; view?: SunView }) {
  const jobId = useJobId();
  if (!view) return null;
  if (!view.track.length && !view.targets.length)
    return <p className="text-dense">Type the position at Site first; then the sun is computed.</p>;
  return (
    <div className="grid grid-cols-2 gap-x-10 gap-y-6 max-xl:grid-cols-1">
      <section aria-label="Bearing by the sun">
        <Table
          title="Bearing by the sun"
          least={420}
          heads={
            <>
              <Head right>bearing °T</Head>
              <Head right>on {day}, UTC</Head>
              <Head right>this device</Head>
              <Head right>sun up °</Head>
            </>
          }
        >
          {view.targets.map((t) => (
            <tr key={t.target} className="border-line border-b">
              <th scope="row" className="py-1.5">
                {t.name}
              </th>
              <Cell right>{figureOf(t.azimuth_deg, 1)}</Cell>
              {t.plumb[0] ? (
                <>
                  <Cell right>{moment(t.plumb[0][0]!, true).utc}</Cell>
                  <Cell right>{moment(t.plumb[0][0]!).here}</Cell>
                  <Cell right>{figureOf(t.plumb[0][1]!, 1)}</Cell>
                </>
              ) : (
                <td colSpan={3} className="text-right text-muted">
                  the sun does not stand there that day
                </td>
              )}
            </tr>
          ))}
        </Table>
        <p className="m-0 mt-2 text-dense text-muted">
          Hang a plumb line at that moment: its shadow runs exactly away from the bearing. Four
          minutes early or late is one degree off. Never look into the sun.
        </p>
      </section>
      <section aria-label="View check and outage">
        <Title note={`in ${view.day.slice(0, 4)}`}>The sun in the beam</Title>
        <ul className="m-0 list-none border-line border-t p-0 text-dense">
          {view.targets
            .filter((t) => t.views.length || t.outages.length)
            .map((t) => (
              <li key={t.target} className="border-line border-b py-1.5">
                <b>{t.name}</b>
                {t.views[0] && (
                  <span className="block">
                    View check: {spans(t.views).join("; ")}. A shadow on the dish then is a blocked
                    path.
                  </span>
                )}
                {t.outages.length > 0 ? (
                  <span className="block">
                    Outage: {spans(t.outages).join("; ")}, up to{" "}
                    <b className="num">{Math.max(...t.outages.map((o) => o.minutes)).toFixed(0)}</b>{" "}
                    min a day.
                  </span>
                ) : (
                  <span className="block text-muted">Outage: place a dish on it first.</span>
                )}
              </li>
            ))}
        </ul>
        {view.targets.every((t) => !t.views.length && !t.outages.length) && (
          <p className="text-dense text-muted">The sun does not reach any of these places.</p>
        )}
        <p className="mt-2 text-dense">
          <a className="underline" href={`/api/jobs/${jobId}/sun.ics?day=${day}`} download>
            Sun events as a calendar file
          </a>
        </p>
      </section>
    </div>
  );
}

type Passing = SunView["targets"][number]["outages"][number];

/** Runs of neighbouring days with the middle moment of each. */
function spans(rows: Passing[]): string[] {
  const runs: Passing[][] = [];
  for (const row of rows) {
    const last = runs[runs.length - 1];
    const before = last?.[last.length - 1];
    if (before && Date.parse(row.day) - Date.parse(before.day) < 1.5 * 86_400_000) last!.push(row);
    else runs.push([row]);
  }
  return runs.map((run) => {
    const best = run.reduce((a, b) => (b.separation_deg < a.separation_deg ? b : a));
    const first = run[0]!.day.slice(5);
    const last = run[run.length - 1]!.day.slice(5);
    return `${first === last ? first : `${first} to ${last}`} about ${moment(best.at_s).utc} UTC`;
  });
}
