import { type FormEvent, useRef, useState } from "react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { StateWord } from "../../instruments/StateMark";
import { NumberField, Tick } from "../../instruments/Value";
import { client, type Refusal, type Target, type TargetSight } from "../../service/client";
import { useJob } from "../../service/job";
import { fileTo } from "../../service/pages";
import { useShown } from "../../shell/showing";
import { figureOf, shown } from "../../shell/units";
import { useWrites } from "../edits";
import { Carriers } from "./Carriers";

/** Satellites and transmitters with their direction, clearance and carriers. */
export function Targets() {
  const { view } = useJob();
  const at = useShown();
  const [open, setOpen] = useState<string | null>(null);
  const declination = view.answers.aim.declination_deg;
  const compass = at.north === "compass" && declination != null;
  return (
    <section aria-label="Targets" className="overflow-x-auto">
      <table className="w-full min-w-[600px] border-collapse text-[13px]">
        <thead>
          <tr className="border-line border-b text-quiet">
            <th scope="col" className="w-[62px]">
              <span className="sr-only">State</span>
            </th>
            <th scope="col" className="py-1.5 font-bold text-[15px] text-ink">
              Targets
            </th>
            <th scope="col" className="whitespace-nowrap text-right">
              bearing {compass ? "°M" : "°T"}
            </th>
            <th scope="col" className="whitespace-nowrap pl-3 text-right">
              elev. °
            </th>
            <th scope="col" className="pl-6">
              clear in {view.answers.sky.until}, thin tick today
            </th>
            <th scope="col">
              <span className="sr-only">Carriers</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {view.answers.sky.targets.map((t) => (
            <Row
              key={t.id}
              t={t}
              shift={compass ? declination : 0}
              open={open === t.id}
              onOpen={() => setOpen(open === t.id ? null : t.id)}
            />
          ))}
        </tbody>
      </table>
      <NewTarget />
      <Others />
      <Lists />
    </section>
  );
}

function Row({
  t,
  shift,
  open,
  onOpen,
}: {
  t: TargetSight;
  shift: number;
  open: boolean;
  onOpen: () => void;
}) {
  const { view } = useJob();
  const { edit, row } = useWrites();
  const at = useShown();
  const target = (view.job.targets ?? []).find((x) => x.id === t.id);
  const count = (view.job.carriers ?? []).filter((c) => c.target === t.id).length;
  const nearest = view.answers.sky.skyline.find((s) => s.id === t.nearest);
  const distance = t.sight
    ? shown(t.sight.distance_km, "km", t.kind === "satellite" ? 0 : 1, at)
    : null;
  const orbit = target?.orbit_deg_e;
  const remove = () =>
    edit((a) => client.DELETE("/api/jobs/{job_id}/targets/{row_id}", { params: row(a, t.id) }));
  const set = (body: Record<string, string>) =>
    edit((a) =>
      client.PATCH("/api/jobs/{job_id}/targets/{row_id}", {
        params: row(a, t.id),
        body: body as never,
      }),
    );
  return (
    <>
      <tr className="border-line border-b">
        <td>
          <StateWord state={t.state} />
        </td>
        <th scope="row" className="py-2">
          <b>{t.name}</b>{" "}
          {orbit != null && (
            <span className="num">
              {Math.abs(orbit).toFixed(1)}°{orbit >= 0 ? "E" : "W"}
            </span>
          )}
          <span className="block text-quiet">
            {nearest ? `nearest ${nearest.letter}` : "nothing near"}
            <Room room={t.room} />
            {t.lifted_deg != null && `, air lifts it ${figureOf(t.lifted_deg, 2)}°`}
            {distance && `; ${distance.figure} ${distance.unit} away`}
          </span>
          {t.kind === "transmitter" && (
            <span className="text-quiet">
              loss over free space{" "}
              <NumberField
                label={`Loss beyond free space to ${t.name}`}
                value={target?.extra_loss_db}
                unit="db"
                width={36}
                commit={(x) => set({ extra_loss_db: x })}
              />
            </span>
          )}
        </th>
        <td className="num pl-2 text-right">
          {t.sight ? figureOf((t.sight.azimuth_deg - shift + 360) % 360, 1) : ""}
        </td>
        <td className="num pl-3 text-right">{t.sight ? figureOf(t.sight.elevation_deg, 1) : ""}</td>
        <td className="pl-6">
          <span className="flex items-center gap-3">
            {t.gauge.value != null && t.gauge.value < 90 && (
              <BracketGauge
                gauge={t.gauge}
                width={110}
                other={
                  t.now_deg != null && Math.abs(t.now_deg - t.gauge.value) > 0.05 ? t.now_deg : null
                }
              />
            )}
            <b className="num">
              {t.gauge.value != null && t.gauge.value < 90
                ? `${figureOf(t.gauge.value, 1)}°`
                : "free"}
            </b>
          </span>
        </td>
        <td className="whitespace-nowrap pl-4 text-right">
          <button type="button" className="mr-3 underline" aria-expanded={open} onClick={onOpen}>
            {count} carrier{count === 1 ? "" : "s"}
          </button>
          <button
            type="button"
            className="underline"
            aria-label={`Remove ${t.name}`}
            onClick={remove}
          >
            remove
          </button>
        </td>
      </tr>
      {open && (
        <tr>
          <td colSpan={6} className="bg-paper p-4">
            {t.kind === "satellite" && target && <Own target={target} set={set} />}
            <Carriers target={t.id} kind={t.kind} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Free sky down, up, left and right of a target. */
function Room({ room }: { room: TargetSight["room"] }) {
  const said = (["down", "up", "left", "right"] as const)
    .filter((k) => room[k] != null && (room[k] ?? 0) < 60)
    .map((k) => `${k} ${figureOf(room[k] ?? 0, 0)}°`);
  return said.length ? <>; free {said.join(", ")}</> : null;
}

/** What a satellite is like: its own tilt, its polarisation, how far its orbit swings. */
function Own({
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

/** Satellites that the job does not want: neighbours that a dish may find or that disturb. */
function Others() {
  const { view } = useJob();
  const { edit, row } = useWrites();
  const rows = (view.job.targets ?? []).filter((t) => t.wanted === false);
  if (!rows.length) return null;
  const seen = new Map(view.answers.sky.neighbours.map((n) => [n.id, n]));
  return (
    <details className="mt-2 text-[13px]">
      <summary className="font-semibold">
        {rows.length} other{rows.length === 1 ? "" : "s"} on the arc
      </summary>
      <ul className="m-0 list-none p-0">
        {rows.map((t) => {
          const n = seen.get(t.id);
          const count = (view.job.carriers ?? []).filter((c) => c.target === t.id).length;
          return (
            <li
              key={t.id}
              className="flex flex-wrap items-center gap-x-4 border-line border-b py-1"
            >
              <b className="w-28">{t.name}</b>
              <span className="num w-16">
                {Math.abs(t.orbit_deg_e ?? 0).toFixed(1)}°{(t.orbit_deg_e ?? 0) >= 0 ? "E" : "W"}
              </span>
              <span className="num w-32">
                {n ? `${figureOf(n.azimuth_deg, 1)}° / ${figureOf(n.elevation_deg, 1)}°` : "below"}
              </span>
              <span className="text-quiet">
                {count} carrier{count === 1 ? "" : "s"}
              </span>
              <button
                type="button"
                className="ml-auto underline"
                onClick={() =>
                  edit((a) =>
                    client.PATCH("/api/jobs/{job_id}/targets/{row_id}", {
                      params: row(a, t.id),
                      body: { wanted: true } as never,
                    }),
                  )
                }
              >
                want it
              </button>
              <button
                type="button"
                className="underline"
                aria-label={`Remove ${t.name}`}
                onClick={() =>
                  edit((a) =>
                    client.DELETE("/api/jobs/{job_id}/targets/{row_id}", { params: row(a, t.id) }),
                  )
                }
              >
                remove
              </button>
            </li>
          );
        })}
      </ul>
    </details>
  );
}

/** Satellites with their transponders and everything's geometry, as open files in and out. */
function Lists() {
  const { view } = useJob();
  const { edit } = useWrites();
  const file = useRef<HTMLInputElement>(null);
  const [refused, refuse] = useState<Refusal | null>(null);
  const at = `/api/jobs/${view.id}`;
  return (
    <div className="mt-2 text-[13px]">
      <p className="m-0 flex flex-wrap items-center gap-x-4 gap-y-1">
        <button type="button" className="plain-button" onClick={() => file.current?.click()}>
          Import a list of satellites
        </button>
        <input
          ref={file}
          type="file"
          accept=".csv,.json"
          aria-label="List of satellites"
          className="sr-only"
          tabIndex={-1}
          onChange={async (e) => {
            const chosen = e.target.files?.[0];
            e.target.value = "";
            if (chosen) refuse(await edit(fileTo("/satellites", "text/csv", chosen)));
          }}
        />
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
      {(refused || (view.notes ?? []).length > 0) && (
        <p role="alert" className="m-0 mt-1 text-brick">
          {refused
            ? `${refused.field}: ${refused.detail} ${refused.remedy}`
            : `Left out, the rest is in: ${(view.notes ?? []).join(" ")}`}
        </p>
      )}
    </div>
  );
}

const FIELD = "h-8 rounded-sm border border-tick bg-field px-2";

function NewTarget() {
  const { edit } = useWrites();
  const [kind, setKind] = useState<"satellite" | "transmitter">("satellite");
  const [name, setName] = useState("");
  const [where, setWhere] = useState("");
  const [height, setHeight] = useState("150");
  const [refused, refuse] = useState<Refusal | null>(null);
  const add = async (e: FormEvent) => {
    e.preventDefault();
    const body = {
      kind,
      name,
      orbit: kind === "satellite" ? where : "",
      position: kind === "satellite" ? "" : where,
      height_m: height,
    };
    const said = await edit((a) => client.POST("/api/jobs/{job_id}/targets", { params: a, body }));
    refuse(said);
    if (!said) {
      setName("");
      setWhere("");
    }
  };
  return (
    <form onSubmit={add} className="mt-2 flex flex-wrap items-center gap-3 text-[13px]">
      <b>+</b>
      <label>
        <span className="sr-only">Kind of target</span>
        <select
          className={FIELD}
          value={kind}
          onChange={(e) => setKind(e.target.value as typeof kind)}
        >
          <option value="satellite">satellite</option>
          <option value="transmitter">transmitter</option>
        </select>
      </label>
      <label>
        <span className="sr-only">Target name</span>
        <input
          className={FIELD}
          placeholder="name"
          required
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <label>
        <span className="sr-only">
          {kind === "satellite" ? "Orbit position" : "Transmitter position"}
        </span>
        <input
          className={`${FIELD} w-52`}
          required
          placeholder={kind === "satellite" ? "28.0 E" : "53.59 -9.4195"}
          value={where}
          onChange={(e) => setWhere(e.target.value)}
        />
      </label>
      {kind === "transmitter" && (
        <label>
          height above sea{" "}
          <input
            className={`${FIELD} w-20`}
            value={height}
            onChange={(e) => setHeight(e.target.value)}
          />{" "}
          m
        </label>
      )}
      <button type="submit" className="plain-button">
        Add target
      </button>
      {refused && (
        <span role="alert" className="text-brick">
          <b>{refused.field}:</b> {refused.detail} {refused.remedy}
        </span>
      )}
    </form>
  );
}
