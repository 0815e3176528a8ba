import type { ReactNode } from "react";
import { Choice } from "../../parts/Value";
import { useJob } from "../../service/job";
import { useWrites } from "../edits";

const FIXINGS = [
  ["wall", "wall, brackets"],
  ["eave", "eave, brackets"],
  ["balcony", "balcony, brackets"],
  ["chimney", "chimney, straps"],
  ["roof", "roof, foot on the rafter"],
  ["pole", "pole in the ground"],
  ["ballast", "flat roof, ballast"],
  ["loft", "loft"],
] as const;
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
  unit: "m" | "mm" | "n" | "kg" | "count",
  digits?: number,
) => ReactNode;

/** What the mast stands on, and the figures that this kind of mount has. */
export function Fixing({ field }: { field: unknown }) {
  const { view } = useJob();
  const { mast: write } = useWrites();
  const m = view.job.mast!;
  const rig = view.job.rig?.kind ?? "none";
  const at = field as (...of: Parameters<Field>) => ReactNode;
  const put = (
    label: string,
    key: keyof typeof m,
    unit: "m" | "mm" | "n" | "kg" | "count",
    digits = 0,
  ) => at(label, key as never, unit, digits);
  const fixing = m.fixing ?? "wall";
  const bolted = ["wall", "eave", "balcony", "roof"].includes(fixing);
  if (rig === "vehicle") return <p className="m-0 py-1 text-quiet">Stands on a vehicle’s roof.</p>;
  const ballast = (
    <>
      {put("Ballast", "ballast_kg", "kg")}
      {put("Side of the foot", "foot_m", "m", 2)}
    </>
  );
  if (rig === "tripod")
    return (
      <>
        <p className="m-0 border-line border-b py-1 text-quiet">Stands on a tripod.</p>
        {ballast}
      </>
    );
  return (
    <>
      <div className="flex items-baseline justify-between border-line border-b py-1">
        <dt>Fixed to</dt>
        <dd className="m-0">
          <Choice
            label="Fixed to"
            value={fixing}
            options={FIXINGS}
            onChange={(v) => write({ fixing: v })}
            width={190}
          />
        </dd>
      </div>
      {bolted && (
        <>
          <div className="flex items-baseline justify-between border-line border-b py-1">
            <dt>Bolts hold in</dt>
            <dd className="m-0">
              <Choice
                label="Bolts hold in"
                value={m.base ?? "unknown"}
                options={BASES}
                onChange={(base) => write({ base })}
                width={190}
              />
            </dd>
          </div>
          {put(fixing === "roof" ? "Bolts of the foot" : "Bolts at each bracket", "bolts", "count")}
          {put("Bolt", "bolt_mm", "mm")}
          {put("Bolts apart, sideways", "bolts_apart_m", "m", 2)}
          {fixing !== "roof" && put("Mast off the wall", "standoff_m", "m", 2)}
          {put("A bolt bears, pulled", "bolt_pull_n", "n")}
          {put("A bolt bears, across", "bolt_shear_n", "n")}
        </>
      )}
      {fixing === "ballast" && ballast}
      {fixing === "pole" && (
        <>
          {put("Pole in the ground", "buried_m", "m", 2)}
          {put("Footing, across", "footing_mm", "mm")}
        </>
      )}
      <Guys put={put} />
      {fixing !== "loft" && put("Ice, thick", "ice_mm", "mm")}
      {put("Crew", "crew", "count")}
    </>
  );
}

/** Guys: how many, where they are tied and anchored, of which rope. */
function Guys({
  put,
}: {
  put: (
    label: string,
    key: "guy_m" | "guy_out_m" | "guy_mm",
    unit: "m" | "mm",
    digits?: number,
  ) => ReactNode;
}) {
  const { view } = useJob();
  const { mast: write } = useWrites();
  const m = view.job.mast!;
  if (m.fixing === "loft") return null;
  return (
    <>
      <div className="flex items-baseline justify-between border-line border-b py-1">
        <dt>Guys</dt>
        <dd className="m-0">
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
        </dd>
      </div>
      {Boolean(m.guys) && (
        <>
          {put("Guys above the upper bracket", "guy_m", "m", 2)}
          {put("Guys anchored away", "guy_out_m", "m", 1)}
          {put("Guy rope", "guy_mm", "mm")}
        </>
      )}
    </>
  );
}
