import { BracketGauge } from "../../instruments/BracketGauge";
import { Answer, AnswerStrip, BigFigure } from "../../instruments/Figure";
import { GaugeLine } from "../../instruments/GaugeLine";
import { MastPicture } from "../../instruments/MastPicture";
import { PictureRegion } from "../../parts/PictureRegion";
import { Problems } from "../../parts/Problems";
import { RemoveButton, RemoveHead } from "../../parts/rows";
import { Choice, NumberField, TextField } from "../../parts/Value";
import type { Antenna } from "../../service/client";
import { useAnswers, useJob } from "../../service/job";
import { type Typed, useRows } from "../../service/rows";
import { useProfiles } from "../../service/settings";
import { Say, useShown } from "../../units/showing";
import { shown, textOf, unitName } from "../../units/units";
import { AddAntenna } from "../AddAntenna";
import { antennasOf } from "../antennas";
import { useStationWrites } from "../edits";
import { Fixing } from "./Fixing";

const WHERE: Record<string, string> = {
  pole: "moment at the ground",
  tripod: "moment at the tripod's head",
  ballast: "moment at the foot's upper hold",
  roof: "moment at the foot",
  jpole: "moment at the foot plate",
  loft: "moment at the foot",
  chimney: "moment at the upper strap",
};

export default function MastPlan() {
  const job = useJob("arrays", "dishes", "mast", "profile");
  const { mast } = useAnswers("mast");
  const { mast: write } = useStationWrites();

  const m = job.mast!;
  const antennas = antennasOf(job);
  const profiles = useProfiles();
  const regions = profiles.find((p) => p.key === job.profile)?.wind.regions ?? [];
  const at = useShown();
  const has = (key: string) => mast.fields.includes(key);
  const field = (
    label: string,
    key: keyof typeof m,
    unit: "m" | "mm" | "mpa" | "nm" | "ms" | "n" | "kg" | "count",
    digits = 1,
  ) => (
    <div className="flex items-baseline justify-between gap-4 border-line border-b py-1">
      <dt>{label}</dt>
      <dd className="m-0">
        <NumberField
          label={label}
          value={m[key] as number | null}
          unit={unit}
          digits={digits}
          commit={(t) => write({ [key]: t })}
          placeholder="none"
        />
      </dd>
    </div>
  );
  return (
    <>
      <AnswerStrip>
        <Answer title="of the limit" more="the graver of fixing and tube" state={mast.state}>
          <BigFigure value={mast.percent} unit="pct" digits={0} />
        </Answer>
        <Answer
          title={WHERE[mast.kind] ?? "moment at the upper bracket"}
          more={mast.moment_origin}
          wide
        >
          <BigFigure value={mast.moment.value} unit="nm" digits={0} />
          <BracketGauge gauge={mast.moment} width={92} height={18} />
        </Answer>
        {mast.uses.slice(0, 2).map((u) => (
          <Answer key={u.name} title={u.name} more={u.origin}>
            <BigFigure
              value={u.gauge.value}
              unit={u.gauge.unit}
              digits={u.gauge.unit === "m" ? 2 : 0}
            />
            <BracketGauge gauge={u.gauge} width={36} height={18} />
          </Answer>
        ))}
        <Answer title="wind" more={mast.pressure_origin}>
          <BigFigure value={mast.pressure_pa} unit="pa" digits={0} />
        </Answer>
      </AnswerStrip>
      <div className="grid grid-cols-[1fr_320px] border-line border-b max-lg:grid-cols-1">
        <PictureRegion name="Mast picture">
          <MastPicture
            answer={mast}
            antennas={antennas}
            free={mast.free_m}
            held={mast.held_m}
            outer={m.outer_mm ?? 48}
            kind={mast.kind}
            guys={
              m.guys && m.guy_m
                ? {
                    up: m.guy_m,
                    out: m.guy_out_m ?? 2,
                    down: mast.kind === "pole" ? 0 : mast.held_m,
                  }
                : null
            }
          />
        </PictureRegion>
        <dl className="m-0 px-6 py-3 text-dense">
          <Fixing field={field} />
          {has("length_m") && field("Tube length", "length_m", "m", 2)}
          {has("held_m") && field("Held between brackets", "held_m", "m", 2)}
          {field("Tube diameter", "outer_mm", "mm")}
          {field("Tube wall", "wall_mm", "mm")}
          {field("Yield strength", "yield_mpa", "mpa", 0)}
          {field("Mount's own limit", "moment_limit_nm", "nm", 0)}
          {regions.length > 1 && (
            <div className="flex items-baseline justify-between gap-4 border-line border-b py-1">
              <dt>Wind region</dt>
              <dd className="m-0">
                <Choice
                  label="Wind region"
                  value={m.wind_region ?? ""}
                  options={[["", "not chosen"], ...regions.map((r) => [r.key, r.name] as const)]}
                  onChange={(wind_region) => write({ wind_region })}
                  width={170}
                />
              </dd>
            </div>
          )}
          {field("Design wind speed", "wind_ms", "ms", 0)}
        </dl>
      </div>
      <div className="grid grid-cols-1 gap-6 px-6 py-4 max-md:px-4">
        <section aria-label="Antennas" className="overflow-x-auto">
          <table className="w-full border-collapse text-dense">
            <thead>
              <tr className="border-line border-b text-muted">
                <th scope="col" className="py-1.5 font-bold text-body text-ink">
                  On the mast
                </th>
                <th scope="col">looks at</th>
                <th scope="col" className="text-right">
                  above upper bracket
                </th>
                <th scope="col" className="text-right">
                  wind area
                </th>
                <th scope="col" className="text-right">
                  weight
                </th>
                <th scope="col" className="text-right">
                  force {unitName("n", at)}
                </th>
                <th scope="col" className="text-right">
                  moment {unitName("nm", at)}
                </th>
                <RemoveHead />
              </tr>
            </thead>
            <tbody>
              {antennas.map((a) => (
                <Row key={a.id} a={a} />
              ))}
            </tbody>
          </table>
          <div className="mt-2">
            <AddAntenna />
          </div>
        </section>
        <section aria-label="Limits">
          <GaugeLine
            name="Moment at the fixing"
            gauge={mast.moment}
            digits={0}
            note={mast.moment_origin}
          />
          <GaugeLine
            name="Moment the tube bears"
            gauge={mast.tube}
            digits={0}
            note="yield strength over 1.5"
          />
          {mast.held.value != null && mast.held_m > 0 && (
            <GaugeLine
              name="Held between brackets"
              gauge={mast.held}
              digits={2}
              note="at least one sixth of the mast"
            />
          )}
          {mast.uses.slice(2).map((u) => (
            <GaugeLine key={u.name} name={u.name} gauge={u.gauge} digits={0} note={u.origin} />
          ))}
          {mast.sway.map((s) => (
            <p key={s.antenna} className="m-0 border-line border-b py-1.5 text-dense">
              <b>{s.name} in a gale</b> turns by{" "}
              <span className="num">{textOf({ value: s.deg, unit: "deg", digits: 2 }, at)}</span>,
              which costs{" "}
              <span className="num">{textOf({ value: s.cost_db, unit: "db", digits: 1 }, at)}</span>
            </p>
          ))}
        </section>
        <Problems rows={mast.problems} />
      </div>
    </>
  );
}

function Row({ a }: { a: Antenna }) {
  const job = useJob("targets");
  const answers = useAnswers("mast");
  const rows = { dish: useRows("dishes"), array: useRows("arrays") }[a.kind];
  const at = useShown();
  const load = answers.mast.loads.find((l) => l.antenna === a.id);
  const weight = answers.mast.weights.find((w) => w.name === a.name);
  const targets = job.targets ?? [];
  const set = (body: Typed<Antenna>) => rows.set(a.id, body);
  const remove = () => rows.remove(a.id);
  return (
    <tr className="border-line border-b">
      <th scope="row" className="py-1">
        <TextField
          label={`Name of ${a.name}`}
          value={a.name}
          width={130}
          commit={(t) => set({ name: t })}
        />
        {a.kind === "dish" && <Told a={a} />}
      </th>
      <td>
        <Choice
          label={`${a.name} looks at`}
          value={a.target ?? ""}
          options={[["", "no target"], ...targets.map((t) => [t.id, t.name] as const)]}
          onChange={(t) => set({ target: t || null })}
        />
      </td>
      <td className="text-right">
        <NumberField
          label={`${a.name} above the upper bracket`}
          value={a.on_mast_m}
          unit="m"
          digits={2}
          width={52}
          commit={(t) => set({ on_mast_m: t })}
        />
      </td>
      <td className="text-right">
        <NumberField
          label={`${a.name} wind area`}
          value={load?.area_m2 ?? a.wind_area_m2}
          unit="m2"
          digits={2}
          width={52}
          commit={(t) => set({ wind_area_m2: t })}
        />
        {a.kind === "dish" && (
          <span className="block text-muted">
            <Choice
              label={`${a.name} wind area from`}
              value={a.area_from ?? "size"}
              options={[
                ["size", "by its size"],
                ["own", "own figure"],
              ]}
              onChange={(area_from) => set({ area_from })}
            />{" "}
            <Choice
              label={`${a.name} reflector`}
              value={a.surface ?? "solid"}
              options={[
                ["solid", "solid"],
                ["mesh", "mesh"],
              ]}
              onChange={(surface) => set({ surface })}
            />
            {load && (
              <span className="block">
                <Say it={load.area_words} />
              </span>
            )}
          </span>
        )}
      </td>
      <td className="text-right">
        <NumberField
          label={`${a.name} weight`}
          value={a.weight_kg ?? null}
          unit="kg"
          width={48}
          commit={(t) => set({ weight_kg: t })}
          placeholder={weight ? shown(weight.kg, "kg", 0, at).figure : "none"}
        />
      </td>
      <td className="num text-right">{load && shown(load.force_n, "n", 0, at).figure}</td>
      <td className="num text-right">{load && shown(load.moment_nm, "nm", 0, at).figure}</td>
      <td className="pl-3 text-right">
        <RemoveButton label={`Remove ${a.name}`} remove={remove} />
      </td>
    </tr>
  );
}

/** What tells a dish's units from those of another kit, and what its locks are tightened with. */
function Told({ a }: { a: Extract<Antenna, { kind: "dish" }> }) {
  const dishes = useRows("dishes");
  return (
    <span className="block text-muted">
      <TextField
        label={`Variant of ${a.name}`}
        value={a.variant ?? ""}
        width={130}
        placeholder="variant, mark"
        commit={(variant) => dishes.set(a.id, { variant })}
      />
      <NumberField
        label={`Torque of the locks of ${a.name}`}
        value={a.lock_torque_nm ?? null}
        unit="nm"
        digits={0}
        width={110}
        placeholder="locks, torque"
        commit={(t) => dishes.set(a.id, { lock_torque_nm: t })}
      />
    </span>
  );
}
