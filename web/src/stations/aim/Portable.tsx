import { useState } from "react";
import { BigFigure } from "../../instruments/Figure";
import { GaugeLine } from "../../instruments/GaugeLine";
import { useWidth } from "../../instruments/useWidth";
import { RemoveButton } from "../../parts/rows";
import { Title } from "../../parts/table";
import { Choice, FilePick, NumberField, TextField, Tick, Why } from "../../parts/Value";
import type { AimDetail, DishRow, Refusal } from "../../service/client";
import { useAnswers, useJob, useView, useWrites } from "../../service/job";
import { fileTo } from "../../service/pages";
import { useRows, useSingle } from "../../service/rows";
import { plain, Say, useShown } from "../../units/showing";
import { figureOf } from "../../units/units";
import { Search } from "./Find";
import { useAimWrites } from "./useAimWrites";

/** One screen for a dish that is set up again at each stop: large figures, search plan, base, stops. */
export function Portable({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const job = useJob("rig", "stops");
  const answers = useAnswers("site", "sky");
  const { aim } = detail;
  const at = useShown();
  const [ref, width] = useWidth<HTMLDivElement>(420);
  const least = answers.sky.targets.find((t) => t.id === aim.target);
  const magnetic = at.north === "compass" || job.rig?.kind !== "none";
  const cells: [string, string, number | null | undefined, "deg_true" | "deg_mag" | "deg"][] = [
    [
      "turn it, by compass",
      aim.compass_deg == null ? "no compass figure here" : `${figureOf(aim.azimuth_deg, 1)}° true`,
      aim.compass_deg,
      "deg_mag",
    ],
    [
      "tilt until the tool reads",
      `${aim.inclinometer_words}; beam ${figureOf(aim.elevation_deg, 1)}° up`,
      aim.inclinometer_deg,
      "deg",
    ],
  ];
  if (!magnetic || aim.compass_deg == null)
    cells[0] = ["turn it to", "true north", aim.azimuth_deg, "deg_true"];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-10 gap-y-6 max-lg:grid-cols-1">
      <section aria-label="Figures" className="min-w-0">
        <p className="m-0 text-body">
          <b>{aim.target_name}</b> from{" "}
          <b>
            {(job.stops ?? []).find((s) => s.id === job.rig?.stop)?.name ?? answers.site.position}
          </b>
        </p>
        {cells.map(([title, more, value, unit]) => (
          <div key={title} className="border-line border-b py-2">
            <p className="m-0 font-bold text-lead">{title}</p>
            <BigFigure value={value} unit={unit} size={72} />
            <p className="m-0 text-body">{more}</p>
          </div>
        ))}
        <div className="border-line border-b py-2">
          <p className="m-0 font-bold text-lead">
            {aim.skew_deg == null ? "polarisation" : `turn the LNB ${aim.skew_short}`}
          </p>
          {aim.skew_deg != null && (
            <BigFigure value={Math.abs(aim.skew_deg)} unit="deg" size={72} />
          )}
          <p className="m-0 text-body">{aim.skew_words}</p>
        </div>
        <p className="m-0 mt-2 text-body">
          Anything higher than <b className="num">{figureOf(detail.sight.under_deg, 0)}°</b> in that
          direction is in the way:{" "}
          <b>
            <Say it={[{ value: detail.sight.rise_m, unit: "m", digits: 1 }]} />
          </b>{" "}
          above the dish at <Say it={[{ value: detail.sight.away_m, unit: "m", digits: 0 }]} />.
          {least?.state === "fail" && (
            <b className="text-fail"> {aim.target_name} is not clear here.</b>
          )}
        </p>
      </section>
      <div className="grid content-start gap-6">
        <section ref={ref} aria-label="Search plan" className="min-w-0">
          <Search detail={detail} width={width} byCompass={magnetic} />
        </section>
        <Base detail={detail} />
        <Stops />
        <Learn detail={detail} antenna={antenna} />
      </div>
    </div>
  );
}

function Base({ detail }: { detail: AimDetail }) {
  const at = useShown();
  const job = useJob("rig");
  const rig = job.rig!;
  const set = useSingle("rig");
  const vehicle = rig.kind === "vehicle";
  return (
    <section aria-label="Base">
      <Title>{vehicle ? "Vehicle roof" : "Tripod"}</Title>
      <p className="m-0 border-line border-t pt-1 text-dense leading-7">
        Stands on{" "}
        <Choice
          label="Stands on"
          value={rig.kind ?? "tripod"}
          options={[
            ["tripod", "a tripod"],
            ["vehicle", "a vehicle's roof"],
            ["none", "a building"],
          ]}
          onChange={(kind) => set({ kind })}
        />
        , off level{" "}
        <NumberField
          label="Base off level"
          value={rig.base_level_deg}
          unit="deg"
          width={40}
          commit={(t) => set({ base_level_deg: t })}
        />
        {vehicle && (
          <>
            , gap under it{" "}
            <NumberField
              label="Gap under the base"
              value={rig.gap_mm}
              unit="mm"
              digits={0}
              width={36}
              commit={(t) => set({ gap_mm: t })}
            />
            , nearest thing{" "}
            <NumberField
              label="Nearest thing on the roof"
              value={rig.nearest_mm}
              unit="mm"
              digits={0}
              width={48}
              commit={(t) => set({ nearest_mm: t })}
            />{" "}
            away,{" "}
            <NumberField
              label="Its height above the roof"
              value={rig.highest_mm}
              unit="mm"
              digits={0}
              width={48}
              commit={(t) => set({ highest_mm: t })}
            />{" "}
            high
          </>
        )}
        , cable{" "}
        <NumberField
          label="Cable to the receiver"
          value={rig.cable_m}
          unit="m"
          width={40}
          commit={(t) => set({ cable_m: t })}
        />
      </p>
      {detail.rig.map((r) => (
        <GaugeLine
          key={r.key}
          name={plain(r.name, at)}
          gauge={r.gauge}
          width={70}
          note={r.origin}
        />
      ))}
      {vehicle && (
        <p className="m-0 mt-1">
          <Tick
            label="Stowed before travel"
            on={rig.stowed ?? false}
            onChange={(stowed) => set({ stowed })}
          />
        </p>
      )}
    </section>
  );
}

function Stops() {
  const { edit, change } = useWrites();
  const job = useJob("rig");
  const notes = useView((view) => view.notes);
  const [refused, refuse] = useState<Refusal | null>(null);
  const rows = useRows("stops");
  const stops = rows.rows;
  const here = job.rig?.stop;
  const add = (position: string) => rows.add({ name: "", position_text: position });
  return (
    <section aria-label="Stops">
      <Title note="the kit's learned zero goes along">Stops</Title>
      <ul className="m-0 list-none border-line border-t p-0 text-body">
        {stops.map((s) => (
          <li key={s.id} className="flex min-h-11 items-center gap-3 border-line border-b">
            <span className="min-w-0 flex-1">
              <b>{s.name}</b>
              <span className="num block text-dense text-muted">{s.position_text}</span>
            </span>
            {s.id === here ? (
              <b className="text-ok">here</b>
            ) : (
              <button
                type="button"
                className="plain-button min-h-11"
                onClick={() => change({ verb: "arrive", stop: s.id })}
              >
                Set up here
              </button>
            )}
            {s.id !== here && (
              <RemoveButton
                mark
                label={`Remove ${s.name}`}
                remove={() => rows.remove(s.id)}
                className="h-11 w-8"
              />
            )}
          </li>
        ))}
      </ul>
      <p className="m-0 mt-2 flex flex-wrap items-center gap-3 text-dense">
        <b>+</b>
        <TextField
          label="Position of the next stop"
          value=""
          width={190}
          commit={add}
          clearAfter
          placeholder="70.468 N 24.930 E"
        />
        <FilePick
          label="GPX file"
          accept=".gpx"
          onFile={async (chosen) =>
            refuse(await edit(fileTo("/stops/gpx", "application/gpx+xml", chosen)))
          }
        >
          GPX file
        </FilePick>
      </p>
      <Why refused={refused} left={notes} />
    </section>
  );
}

function Learn({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const { zero } = useAimWrites(antenna.id);
  return (
    <p className="m-0 text-dense leading-6">
      The tool is known to read <b className="num">{figureOf(antenna.scale_zero_deg ?? 0, 1)}°</b>{" "}
      too high. Peaked? Then learn it anew: it reads{" "}
      <TextField
        label="Reading on the peaked satellite"
        value=""
        width={56}
        number
        clearAfter
        commit={zero}
        placeholder={figureOf(detail.aim.inclinometer_deg ?? 0, 1)}
        suffix="°"
      />
    </p>
  );
}
