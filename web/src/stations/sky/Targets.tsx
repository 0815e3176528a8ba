import { useState } from "react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { StateWord } from "../../instruments/StateMark";
import { emptied } from "../../parts/emptied";
import { AddRow, NewChoice, NewText, RemoveButton } from "../../parts/rows";
import { NumberField } from "../../parts/Value";
import type { TargetSight } from "../../service/client";
import { useAnswers, useJob } from "../../service/job";
import { useRows } from "../../service/rows";
import { useShown } from "../../units/showing";
import { figureOf, inUnit, shown, unitName } from "../../units/units";
import { Carriers } from "./Carriers";
import { Lists, Others, Own } from "./Others";

/** Satellites and transmitters with their direction, clearance and carriers. */
export function Targets() {
  const answers = useAnswers("aim", "sky");
  const at = useShown();
  const [open, setOpen] = useState<string | null>(null);
  const declination = answers.aim.declination_deg;
  const compass = at.north === "compass" && declination != null;
  return (
    <section aria-label="Targets" className="overflow-x-auto">
      <table className="w-full min-w-[600px] border-collapse text-dense">
        <thead>
          <tr className="border-line border-b text-muted">
            <th scope="col" className="w-[92px]">
              <span className="sr-only">State</span>
            </th>
            <th scope="col" className="py-1.5 font-bold text-body text-ink">
              Targets
            </th>
            <th scope="col" className="whitespace-nowrap text-right">
              bearing {compass ? "°M" : "°T"}
            </th>
            <th scope="col" className="whitespace-nowrap pl-3 text-right">
              elev. °
            </th>
            <th scope="col" className="pl-6">
              clear in {answers.sky.until}, thin tick today
            </th>
            <th scope="col">
              <span className="sr-only">Carriers</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {answers.sky.targets.map((t) => (
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
  const job = useJob("carriers", "targets");
  const answers = useAnswers("sky");
  const targets = useRows("targets");
  const at = useShown();
  const target = (job.targets ?? []).find((x) => x.id === t.id);
  const count = (job.carriers ?? []).filter((c) => c.target === t.id).length;
  const nearest = answers.sky.skyline.find((s) => s.id === t.nearest);
  const distance = t.sight
    ? shown(t.sight.distance_km, "km", t.kind === "satellite" ? 0 : 1, at)
    : null;
  const orbit = target?.orbit_deg_e;
  const remove = () => targets.remove(t.id);
  const set = (body: Record<string, string>) => targets.set(t.id, body);
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
          <span className="block text-muted">
            {nearest ? `nearest ${nearest.letter}` : "nothing near"}
            <Room room={t.room} />
            {t.lifted_deg != null && `, air lifts it ${figureOf(t.lifted_deg, 2)}°`}
            {distance && `; ${distance.figure} ${distance.unit} away`}
          </span>
          {t.kind === "transmitter" && (
            <span className="text-muted">
              {t.field_dbuvm != null && (
                <>
                  {figureOf(t.field_dbuvm, 0)} dBµV/m, {figureOf(t.loss_db ?? 0, 0)} dB lost:{" "}
                  {t.loss_source};{" "}
                </>
              )}
              own loss{" "}
              <NumberField
                label={`Own loss over free space to ${t.name}`}
                value={target?.own_loss_db}
                unit="db"
                width={36}
                placeholder="none"
                commit={(x) => set({ own_loss_db: x })}
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
          <RemoveButton label={`Remove ${t.name}`} remove={remove} />
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

const KINDS = [
  ["satellite", "satellite"],
  ["transmitter", "transmitter"],
] as const;

function NewTarget() {
  const targets = useRows("targets");
  const at = useShown();
  const [kind, setKind] = useState<"satellite" | "transmitter">("satellite");
  const [name, setName] = useState("");
  const [where, setWhere] = useState("");
  const [height, setHeight] = useState("");
  const add = async () => {
    const said = await targets.add(
      kind === "satellite"
        ? { kind, name, orbit_deg_e: where }
        : { kind, name, position: where, height_m: inUnit(height, "m", at) || "150 m" },
    );
    if (!said) {
      setName(emptied(name));
      setWhere(emptied(where));
    }
    return said;
  };
  return (
    <AddRow button="Add target" add={add}>
      <NewChoice label="Kind of target" value={kind} change={setKind} options={KINDS} />
      <NewText label="Target name" value={name} change={setName} hint="name" required />
      <NewText
        label={kind === "satellite" ? "Orbit position" : "Transmitter position"}
        value={where}
        change={setWhere}
        hint={kind === "satellite" ? "28.0 E" : "53.59 -9.4195"}
        width="w-52"
        required
      />
      {kind === "transmitter" && (
        <>
          <span aria-hidden="true">height above sea</span>
          <NewText
            label={`height above sea ${unitName("m", at)}`}
            value={height}
            change={setHeight}
            hint={shown(150, "m", 0, at).figure}
            width="w-20"
          />
          <span aria-hidden="true">{unitName("m", at)}</span>
        </>
      )}
    </AddRow>
  );
}
