import { useState } from "react";
import { StateWord } from "../../instruments/StateMark";
import { AddRow, NewText, RemoveButton } from "../../parts/rows";
import { Cell, Head, Table } from "../../parts/table";
import { Choice, NumberField, TextField } from "../../parts/Value";
import type { Change, SpotLine } from "../../service/client";
import { useAnswers, useJob, useWrites } from "../../service/job";
import { sameChange, useRows } from "../../service/rows";
import { Say, useShown } from "../../units/showing";
import { inUnit, shown, unitName } from "../../units/units";

/** Places where the mount could stand, compared; the best is named with its reason. */
export function Places({
  tried,
  onTry,
}: {
  tried: Change | null;
  onTry: (change: Change | null) => void;
}) {
  const answers = useAnswers("sky");
  const { spots, until, targets } = answers.sky;
  const at = useShown();
  const m = unitName("m", at);
  const wanted = targets.filter((t) => t.kind === "satellite").length;
  const muxes = Math.max(0, ...spots.map((s) => s.of_arrives));
  return (
    <section aria-label="Places to mount">
      <Table
        title="Places to mount"
        least={820}
        heads={
          <>
            <Head right>bearing °T</Head>
            <Head right>away {m}</Head>
            <Head right>height {m}</Head>
            <Head right>cable {m}</Head>
            {wanted > 0 && <Head right>clear in {until}</Head>}
            {muxes > 0 && <Head right>arrive</Head>}
            <Head wide>why</Head>
            <Head>
              <span className="sr-only">Do</span>
            </Head>
          </>
        }
      >
        {spots.map((s) => (
          <Place
            key={s.id ?? "now"}
            line={s}
            of={wanted}
            muxes={muxes}
            tried={tried}
            onTry={onTry}
          />
        ))}
      </Table>
      {spots.length === 0 && (
        <p className="text-dense text-muted">
          Add a satellite or a transmitter first: places are compared by what they see and hear.
        </p>
      )}
      <NewPlace />
      <p className="m-0 mt-3 max-w-[760px] text-dense text-muted">
        Obstructions with a distance are seen anew from each place; those without keep their
        bearings. What arrives is the forecast with the antenna turned straight at each transmitter.
        The place that serves most wins, then the one with least against it; among equals the lower
        mount and the shorter cable.
      </p>
    </section>
  );
}

function Place({
  line: s,
  of,
  muxes,
  tried,
  onTry,
}: {
  line: SpotLine;
  of: number;
  muxes: number;
  tried: Change | null;
  onTry: (change: Change | null) => void;
}) {
  const { change: take } = useWrites();
  const spots = useRows("spots");
  const at = useShown();
  const mine = s.change ?? null;
  const set = (body: Record<string, string>) => spots.set(s.id ?? "", body);
  const field = (key: "distance_m" | "height_m" | "cable_m", label: string, to: string) =>
    s.id ? (
      <NumberField
        label={`${s.name}, ${label}`}
        value={s[key] ?? 0}
        unit="m"
        width={52}
        showUnit={false}
        commit={(t) => set({ [to]: t })}
      />
    ) : key === "height_m" ? (
      shown(s.height_m, "m", 1, at).figure
    ) : (
      ""
    );
  const shade = s.best ? "bg-paper" : "";
  return (
    <>
      <tr className={`${s.id ? "" : "border-line border-b"} ${shade}`}>
        <th scope="row" className="py-1.5">
          <span className="flex items-center gap-3">
            <StateWord state={s.state} />
            {s.id ? (
              <TextField
                label={`Name of ${s.name}`}
                value={s.name}
                width={150}
                commit={(t) => set({ name: t })}
              />
            ) : (
              <span>{s.name}</span>
            )}
            {s.best && <b className="text-ok">best</b>}
          </span>
        </th>
        <Cell right>
          {s.id ? (
            <NumberField
              label={`${s.name}, bearing`}
              value={s.bearing_deg}
              unit="deg_true"
              width={52}
              showUnit={false}
              commit={(t) => set({ bearing_deg: t })}
            />
          ) : (
            ""
          )}
        </Cell>
        <Cell right>{field("distance_m", "away", "distance_m")}</Cell>
        <Cell right>{field("height_m", "height", "mount_height_m")}</Cell>
        <Cell right>{field("cable_m", "cable", "cable_m")}</Cell>
        {of > 0 && (
          <Cell right>
            {s.clear} of {of}
          </Cell>
        )}
        {muxes > 0 && (
          <Cell right>
            {s.arrives} of {s.of_arrives}
          </Cell>
        )}
        <td className="pl-6">
          <Say it={s.why} />
        </td>
        <td className="whitespace-nowrap pl-3 text-right">
          {s.id &&
            (sameChange(mine, tried) ? (
              <button
                type="button"
                className="copper-button"
                onClick={() => mine && take(mine).then(() => onTry(null))}
              >
                Mount here
              </button>
            ) : (
              <>
                <button type="button" className="mr-3 underline" onClick={() => onTry(mine)}>
                  show
                </button>
                <RemoveButton label={`Remove ${s.name}`} remove={() => spots.remove(s.id ?? "")} />
              </>
            ))}
        </td>
      </tr>
      {s.id && (
        <tr className={`border-line border-b ${shade}`}>
          <td colSpan={99} className="pb-1.5">
            <Like spot={s.id} name={s.name} set={set} />
          </td>
        </tr>
      )}
    </>
  );
}

const LIKE = {
  surface: [
    ["unknown", "surface unknown"],
    ["masonry", "masonry"],
    ["timber", "timber"],
    ["render", "render over what"],
    ["metal", "metal"],
    ["ground", "ground"],
    ["chimney", "chimney"],
  ],
  access: [
    ["unknown", "access unknown"],
    ["ground", "from the ground"],
    ["ladder", "by ladder"],
    ["roof", "over the roof"],
    ["scaffold", "by scaffold"],
  ],
  wind: [
    ["unknown", "wind unknown"],
    ["sheltered", "sheltered"],
    ["open", "open to the wind"],
    ["edge", "at an edge"],
  ],
  in_way: [
    ["nothing", "nothing in the way"],
    ["gutter", "gutter in the way"],
    ["ridge", "ridge in the way"],
    ["neighbour", "over neighbour's ground"],
  ],
  noise: [
    ["none", "no interference"],
    ["near", "interference near"],
  ],
} as const;

/** What a place is like; each counts in the comparison. */
function Like({
  spot,
  name,
  set,
}: {
  spot: string;
  name: string;
  set: (body: Record<string, string>) => unknown;
}) {
  const job = useJob("spots");
  const row = (job.spots ?? []).find((s) => s.id === spot);
  if (!row) return null;
  return (
    <span className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      {(Object.keys(LIKE) as (keyof typeof LIKE)[]).map((k) => (
        <Choice
          key={k}
          label={`${name}, ${k === "in_way" ? "in the way" : k}`}
          value={(row[k] ?? LIKE[k][0][0]) as string}
          options={LIKE[k] as readonly (readonly [string, string])[]}
          onChange={(v) => set({ [k]: v })}
        />
      ))}
    </span>
  );
}

function NewPlace() {
  const spots = useRows("spots");
  const at = useShown();
  const m = unitName("m", at);
  const empty = { name: "", bearing_deg: "", distance_m: "", mount_height_m: "", cable_m: "" };
  const [typed, set] = useState(empty);
  const add = async () => {
    const body = {
      ...typed,
      bearing_deg: typed.bearing_deg || "0",
      distance_m: inUnit(typed.distance_m || "0", "m", at),
      mount_height_m: inUnit(typed.mount_height_m, "m", at),
      cable_m: inUnit(typed.cable_m || "10 m", "m", at),
    };
    const said = await spots.add(body);
    if (!said) set(empty);
    return said;
  };
  const field = (key: keyof typeof empty, label: string, width: string) => (
    <NewText
      label={label}
      value={typed[key]}
      change={(text) => set({ ...typed, [key]: text })}
      width={width}
      required={key === "name"}
    />
  );
  return (
    <AddRow button="Add place" add={add}>
      {field("name", "Place name", "w-40")}
      {field("bearing_deg", "bearing °T", "w-24")}
      {field("distance_m", `away, ${m}`, "w-24")}
      {field("mount_height_m", `mount height, ${m}`, "w-36")}
      {field("cable_m", `cable, ${m}`, "w-24")}
    </AddRow>
  );
}
