import { useState } from "react";
import { StateWord } from "../../instruments/StateMark";
import { Cell, Head, Table } from "../../parts/table";
import { FilePick, Why } from "../../parts/Value";
import { client, type NearLine, type Refusal, type State } from "../../service/client";
import { useAnswers, useJob, useJobId, useView } from "../../service/job";
import { fileTo, useNear } from "../../service/pages";
import { isRefusal, send, told } from "../../service/refusals";
import { useShown } from "../../units/showing";
import { figureOf, shown } from "../../units/units";
import { useStationWrites } from "../edits";

/** Transmitters of the installer's list within reach of this place, the strongest first. */
export function Senders() {
  const job = useJob("profile");
  const jobId = useJobId();
  const notes = useView((view) => view.notes);
  const { edit } = useStationWrites();
  const [refused, refuse] = useState<Refusal | null>(null);
  const [kept, keep] = useState<string>("");
  const { data, refetch } = useNear();
  const at = `/api/jobs/${jobId}`;
  return (
    <div className="grid gap-4 text-dense">
      <section aria-label="Transmitters within reach" className="min-w-0">
        {data && data.length > 0 ? (
          <List
            rows={data}
            onRefused={refuse}
            onForgotten={(name) => {
              keep(`${name} is no longer in the list; jobs keep theirs.`);
              refetch();
            }}
          />
        ) : (
          <p className="m-0">
            {data
              ? "None of the list is within reach: import a list, or add one under Survey."
              : "Looking through the list."}
          </p>
        )}
      </section>
      <p className="m-0 flex flex-wrap items-center gap-x-4 gap-y-2">
        <FilePick
          label="List of transmitters"
          accept=".csv,.json,.geojson"
          onFile={async (f) => refuse(await edit(fileTo("/transmitters", "text/csv", f)))}
        >
          Import transmitters into this job
        </FilePick>
        <FilePick
          label="Transmitters for every job"
          accept=".csv,.json,.geojson"
          onFile={async (f) => {
            const said = await send<{ notes: string[] }>(
              `/api/transmitters?channels=${tableOf(job.profile)}`,
              {
                method: "POST",
                headers: { "content-type": "text/csv" },
                body: await f.slice(0, 21_000_000).arrayBuffer(),
              },
            );
            refuse(isRefusal(said) ? said : null);
            if (!isRefusal(said)) {
              keep(
                said.notes.length ? `Left out: ${said.notes.join(" ")}` : "Taken into the list.",
              );
              refetch();
            }
          }}
        >
          Import into the list for every job
        </FilePick>
        <button
          type="button"
          className="plain-button"
          onClick={async () => {
            try {
              await told(
                client.POST("/api/jobs/{job_id}/keep-transmitters", {
                  params: { path: { job_id: jobId } },
                }),
              );
              refuse(null);
              keep("The job's transmitters are in the list.");
              refetch();
            } catch (refused) {
              refuse(refused as Refusal);
            }
          }}
        >
          Keep this job's in the list
        </button>
        <span>
          Out:{" "}
          <a href={`${at}/transmitters.csv`} download className="mr-2 underline">
            transmitters.csv
          </a>
          <a href={`${at}/transmitters.geojson`} download className="mr-4 underline">
            transmitters.geojson
          </a>
          the whole list:{" "}
          <a href="/api/transmitters.csv" download className="mr-2 underline">
            list.csv
          </a>
          <a href="/api/transmitters.geojson" download className="underline">
            list.geojson
          </a>
        </span>
      </p>
      {kept && (
        <p role="status" className="m-0 text-muted">
          {kept}
        </p>
      )}
      <Why refused={refused} left={notes} />
      <p className="m-0 max-w-3xl text-muted">
        CSV columns: name, latitude_deg, longitude_deg, height_m of the antenna above sea; then, as
        far as known, pattern (0:8 60:0 180:12), multiplex, channel or frequency_mhz, bandwidth_mhz,
        modulation, erp_kw, polarisation, label, services (parted by |), network. A row for each
        multiplex.
      </p>
    </div>
  );
}

function tableOf(profile: string | undefined): string {
  if (profile === "north-america") return "north-america";
  return profile === "australia-new-zealand" ? "australia" : "europe";
}

function stateOf(r: NearLine): State {
  if (r.margin_db == null) return "unknown";
  return r.margin_db < 0 ? "fail" : r.margin_db < 10 ? "marginal" : "ok";
}

function List({
  rows,
  onRefused,
  onForgotten,
}: {
  rows: NearLine[];
  onRefused: (r: Refusal | null) => void;
  onForgotten: (name: string) => void;
}) {
  const forget = async (name: string) => {
    try {
      const { senders } = await told(client.GET("/api/transmitters"));
      const known = senders.find((s) => s.sender.name === name);
      if (known) {
        const path = { key: known.id };
        await told(client.DELETE("/api/transmitters/{key}", { params: { path } }));
      }
      onRefused(null);
      onForgotten(name);
    } catch (refused) {
      onRefused(refused as Refusal);
    }
  };
  const answers = useAnswers("aim");
  const { edit } = useStationWrites();
  const at = useShown();
  const declination = answers.aim.declination_deg;
  const shift = at.north === "compass" && declination != null ? declination : 0;
  return (
    <Table
      title="Within reach"
      least={720}
      heads={
        <>
          <Head right>bearing {shift ? "°M" : "°T"}</Head>
          <Head right>{shown(0, "km", 0, at).unit}</Head>
          <Head right>field dBµV/m</Head>
          <Head right>lost dB</Head>
          <Head>ground</Head>
          <Head right>services</Head>
          <Head right>dipole, dB over</Head>
          <Head>
            <span className="sr-only">Take it</span>
          </Head>
        </>
      }
    >
      {rows.map((r) => (
        <tr key={r.name} className="border-line border-b">
          <th scope="row" className="py-1.5 font-semibold">
            {r.name}
          </th>
          <Cell right>{figureOf((r.bearing_deg - shift + 360) % 360, 1)}</Cell>
          <Cell right>{shown(r.distance_km, "km", 1, at).figure}</Cell>
          <Cell right>{r.field_dbuvm == null ? "" : figureOf(r.field_dbuvm, 1)}</Cell>
          <Cell right>{figureOf(r.lost_db, 1)}</Cell>
          <Cell>
            {r.in_sight ? "in sight" : "over an edge"}
            <span className="block text-muted">{r.source}</span>
          </Cell>
          <Cell right>{r.services}</Cell>
          <Cell right>
            {r.margin_db == null ? "" : figureOf(r.margin_db, 1)}{" "}
            <StateWord state={stateOf(r)} mark={false} />
          </Cell>
          <td className="pl-4 text-right">
            {r.in_job ? (
              <span className="text-muted">in this job</span>
            ) : (
              <button
                type="button"
                className="underline"
                aria-label={`Take it: ${r.name}`}
                onClick={async () =>
                  onRefused(
                    await edit((a) =>
                      client.POST("/api/jobs/{job_id}/near", { params: a, body: { name: r.name } }),
                    ),
                  )
                }
              >
                take it
              </button>
            )}
            <button
              type="button"
              className="ml-4 text-muted underline"
              aria-label={`Forget ${r.name}, off the list`}
              onClick={() => forget(r.name)}
            >
              forget
            </button>
          </td>
        </tr>
      ))}
    </Table>
  );
}
