import { useState } from "react";
import { RemoveButton } from "../../parts/rows";
import { FilePick, NumberField, Tick, Why } from "../../parts/Value";
import type { Refusal, Target } from "../../service/client";
import { useAnswers, useJob, useJobId, useView } from "../../service/job";
import { fileTo } from "../../service/pages";
import { useRows } from "../../service/rows";
import { figureOf } from "../../units/units";
import { useStationWrites } from "../edits";

/** What a satellite is like: its own tilt, its polarisation, how far its orbit swings. */
export function Own({
  target,
  set,
}: {
  target: Target;
  set: (body: Record<string, string>) => Promise<Refusal | null>;
}) {
  const choose = set as (body: Record<string, unknown>) => Promise<Refusal | null>;
  return (
    <p className="m-0 mb-2 flex flex-wrap items-baseline gap-x-5">
      <span>
        Own tilt{" "}
        <NumberField
          label={`Own tilt of ${target.name}`}
          value={target.polarisation_offset_deg}
          unit="deg"
          width={44}
          commit={(x) => set({ polarisation_offset_deg: x })}
        />
      </span>
      <span>
        Orbit swings{" "}
        <NumberField
          label={`Orbit inclination of ${target.name}`}
          value={target.inclination_deg}
          unit="deg"
          width={44}
          commit={(x) => set({ inclination_deg: x })}
        />
      </span>
      <Tick
        label="Circular, needs no skew"
        on={target.circular ?? false}
        onChange={(circular) => choose({ circular })}
      />
      <Tick label="Wanted" on={target.wanted ?? true} onChange={(wanted) => choose({ wanted })} />
    </p>
  );
}

/** What the job does not want: satellites that a dish may find, transmitters that disturb. */
export function Others() {
  return (
    <>
      <Unwanted kind="satellite" where="on the arc" />
      <Unwanted kind="transmitter" where="in the air, as interference only" />
    </>
  );
}

function Unwanted({ kind, where }: { kind: Target["kind"]; where: string }) {
  const job = useJob("carriers", "targets");
  const answers = useAnswers("sky");
  const targets = useRows("targets");
  const rows = (job.targets ?? []).filter((t) => t.wanted === false && t.kind === kind);
  if (!rows.length) return null;
  const seen = new Map(answers.sky.neighbours.map((n) => [n.id, n]));
  return (
    <details className="mt-2 text-dense">
      <summary className="font-semibold">
        {rows.length} other{rows.length === 1 ? "" : "s"} {where}
      </summary>
      <ul className="m-0 list-none p-0">
        {rows.map((t) => {
          const n = seen.get(t.id);
          const count = (job.carriers ?? []).filter((c) => c.target === t.id).length;
          return (
            <li
              key={t.id}
              className="flex flex-wrap items-center gap-x-4 border-line border-b py-1"
            >
              <b className="w-28">{t.name}</b>
              {kind === "satellite" && (
                <>
                  <span className="num w-16">
                    {Math.abs(t.orbit_deg_e ?? 0).toFixed(1)}°
                    {(t.orbit_deg_e ?? 0) >= 0 ? "E" : "W"}
                  </span>
                  <span className="num w-32">
                    {n
                      ? `${figureOf(n.azimuth_deg, 1)}° / ${figureOf(n.elevation_deg, 1)}°`
                      : "below"}
                  </span>
                </>
              )}
              <span className="text-muted">
                {count} carrier{count === 1 ? "" : "s"}
              </span>
              <button
                type="button"
                className="ml-auto underline"
                onClick={() => targets.set(t.id, { wanted: true })}
              >
                want it
              </button>
              <RemoveButton label={`Remove ${t.name}`} remove={() => targets.remove(t.id)} />
            </li>
          );
        })}
      </ul>
    </details>
  );
}

/** Satellites with their transponders and everything's geometry, as open files in and out. */
export function Lists() {
  const jobId = useJobId();
  const notes = useView((view) => view.notes);
  const { edit } = useStationWrites();
  const [refused, refuse] = useState<Refusal | null>(null);
  const at = `/api/jobs/${jobId}`;
  return (
    <div className="mt-2 text-dense">
      <p className="m-0 flex flex-wrap items-center gap-x-4 gap-y-1">
        <FilePick
          label="List of satellites"
          accept=".csv,.json"
          onFile={async (chosen) => refuse(await edit(fileTo("/satellites", "text/csv", chosen)))}
        >
          Import a list of satellites
        </FilePick>
        <span>
          Out:{" "}
          {(["satellites.csv", "satellites.json", "targets.geojson", "targets.kml"] as const).map(
            (name) => (
              <a key={name} href={`${at}/${name}`} download className="mr-2 underline">
                {name}
              </a>
            ),
          )}
        </span>
      </p>
      <Why refused={refused} left={notes} />
    </div>
  );
}
