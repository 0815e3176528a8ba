import type { ReactNode } from "react";
import { BEHIND } from "../../parts/behind";
import { Choice } from "../../parts/Value";
import { useAnswers, useJob } from "../../service/job";
import { useStationWrites } from "../edits";

const BASES = [
  ["unknown", "not said yet"],
  ["concrete", "concrete"],
  ["brick", "solid brick"],
  ["block", "hollow block"],
  ["timber", "timber beam"],
  ["metal", "metal"],
  ["render", "render, unknown behind"],
] as const;

type Field = (
  label: string,
  key: never,
  unit: "m" | "mm" | "n" | "nm" | "kg" | "count",
  digits?: number,
) => ReactNode;

/** What the mast stands on, and the figures that this kind of mount has. */
export function Fixing({ field }: { field: unknown }) {
  const { mast: m } = useJob("mast");
  const { mast } = useAnswers("mast");
  const { mast: write } = useStationWrites();
  const at = field as (...of: Parameters<Field>) => ReactNode;
  const has = (key: string) => mast.fields.includes(key);
  const put = (
    label: string,
    key: keyof typeof m,
    unit: "m" | "mm" | "n" | "nm" | "kg" | "count",
    digits = 0,
  ) => has(key) && at(label, key as never, unit, digits);
  const chosen = mast.kinds.some((k) => k.key === mast.kind);
  // One foot has one set of bolts.
  const onFoot = !has("held_m") || !has("standoff_m");
  return (
    <>
      {chosen ? (
        <Line label="Fixed to">
          <Choice
            label="Fixed to"
            value={m.fixing ?? "wall"}
            options={mast.kinds.map((k) => [k.key as "wall", k.name] as const)}
            onChange={(fixing) => write({ fixing })}
            width={190}
          />
        </Line>
      ) : (
        <p className="m-0 border-line border-b py-1 text-muted">Stands on {mast.mount}.</p>
      )}
      {has("base") && (
        <Line label="Bolts hold in">
          <Choice
            label="Bolts hold in"
            value={m.base ?? "unknown"}
            options={BASES}
            onChange={(base) => write({ base })}
            width={190}
          />
        </Line>
      )}
      {put(onFoot ? "Bolts of the foot" : "Bolts at each bracket", "bolts", "count")}
      {put("Bolt", "bolt_mm", "mm")}
      {put("Bolts apart, sideways", "bolts_apart_m", "m", 2)}
      {put("Bolts apart, upright", "rows_apart_m", "m", 2)}
      {put("Mast off the wall", "standoff_m", "m", 2)}
      {put("A bolt bears, pulled", "bolt_pull_n", "n")}
      {put("A bolt bears, across", "bolt_shear_n", "n")}
      {put("Torque of the bolts", "bolt_torque_nm", "nm")}
      {has("behind") && (
        <Line label="Behind the holes">
          <Choice
            label="Behind the holes"
            value={m.behind ?? "unknown"}
            options={BEHIND}
            onChange={(behind) => write({ behind })}
            width={190}
          />
        </Line>
      )}
      {put("Ballast", "ballast_kg", "kg")}
      {put("Side of the foot", "foot_m", "m", 2)}
      {put("Pole in the ground", "buried_m", "m", 2)}
      {put("Footing, across", "footing_mm", "mm")}
      {has("guys") && <Guys at={at} />}
      {put("Ice, thick", "ice_mm", "mm")}
      {put("Crew", "crew", "count")}
    </>
  );
}

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline justify-between border-line border-b py-1">
      <dt>{label}</dt>
      <dd className="m-0">{children}</dd>
    </div>
  );
}

const ANCHORED = [
  ["unknown", "not said yet"],
  ["concrete", "concrete"],
  ["brick", "solid brick"],
  ["block", "hollow block"],
  ["timber", "timber"],
  ["metal", "metal"],
  ["ground", "the ground"],
] as const;

/** Guys: how many, where they are tied and anchored, of which rope, and what holds their anchors. */
function Guys({ at }: { at: (...of: Parameters<Field>) => ReactNode }) {
  const { mast: m } = useJob("mast");
  const { mast: write } = useStationWrites();
  const put = (
    label: string,
    key: "guy_m" | "guy_out_m" | "guy_mm" | "guy_anchor_n",
    unit: "m" | "mm" | "n",
    digits = 0,
  ) => at(label, key as never, unit, digits);
  return (
    <>
      <Line label="Guys">
        <Choice
          label="Guys"
          value={String(m.guys ?? 0) as "0"}
          options={[
            ["0", "none"],
            ["3" as "0", "three"],
            ["4" as "0", "four"],
          ]}
          onChange={(n) => write({ guys: Number(n) })}
          width={120}
        />
      </Line>
      {Boolean(m.guys) && (
        <>
          {put("Guys above the upper bracket", "guy_m", "m", 2)}
          {put("Guys anchored away", "guy_out_m", "m", 1)}
          {put("Guy rope", "guy_mm", "mm")}
          <Line label="Guys anchored in">
            <Choice
              label="Guys anchored in"
              value={m.guy_base ?? "unknown"}
              options={ANCHORED}
              onChange={(guy_base) => write({ guy_base })}
              width={150}
            />
          </Line>
          {put("An anchor bears", "guy_anchor_n", "n")}
        </>
      )}
    </>
  );
}
