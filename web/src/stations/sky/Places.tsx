import { type FormEvent, useState } from "react";
import { StateWord } from "../../instruments/StateMark";
import { Cell, Head, Table } from "../../instruments/table";
import { NumberField, TextField, Why } from "../../instruments/Value";
import { client, type Refusal, type SpotLine } from "../../service/client";
import { useJob } from "../../service/job";
import { useTakeFix } from "../../shell/Problems";
import { useShown } from "../../shell/showing";
import { figureOf, unitName } from "../../shell/units";
import { useWrites } from "../edits";

/** Places where the mount could stand, compared; the best is named with its reason. */
export function Places({
  fix,
  onTry,
}: {
  fix: string | null;
  onTry: (fix: string | null) => void;
}) {
  const { view } = useJob();
  const { spots, until, targets } = view.answers.sky;
  const at = useShown();
  const m = unitName("m", at);
  const wanted = targets.filter((t) => t.kind === "satellite").length;
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
            <Head right>clear in {until}</Head>
            <Head wide>why</Head>
            <Head>
              <span className="sr-only">Do</span>
            </Head>
          </>
        }
      >
        {spots.map((s) => (
          <Place key={s.id ?? "now"} line={s} of={wanted} fix={fix} onTry={onTry} />
        ))}
      </Table>
      {spots.length === 0 && (
        <p className="text-[13px] text-quiet">
          Add a satellite first: places are compared by what they see.
        </p>
      )}
      <NewPlace />
      <p className="m-0 mt-3 max-w-[760px] text-[13px] text-quiet">
        Obstructions with a distance are seen anew from each place; those without keep their
        bearings. The place that frees most wins; among equals the lower mount and the shorter
        cable.
      </p>
    </section>
  );
}

function Place({
  line: s,
  of,
  fix,
  onTry,
}: {
  line: SpotLine;
  of: number;
  fix: string | null;
  onTry: (fix: string | null) => void;
}) {
  const { edit, row } = useWrites();
  const take = useTakeFix();
  const mine = `spot:${s.id}`;
  const set = (body: Record<string, string>) =>
    edit((a) =>
      client.PATCH("/api/jobs/{job_id}/spots/{row_id}", {
        params: row(a, s.id ?? ""),
        body: body as never,
      }),
    );
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
      figureOf(s.height_m, 1)
    ) : (
      ""
    );
  return (
    <tr className={`border-line border-b ${s.best ? "bg-paper" : ""}`}>
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
          {s.best && <b className="text-verdigris">best</b>}
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
      <Cell right>
        {s.clear} of {of}
      </Cell>
      <td className="pl-6">{s.why}</td>
      <td className="whitespace-nowrap pl-3 text-right">
        {s.id &&
          (fix === mine ? (
            <button
              type="button"
              className="copper-button"
              onClick={() => take(mine).then(() => onTry(null))}
            >
              Mount here
            </button>
          ) : (
            <>
              <button type="button" className="mr-3 underline" onClick={() => onTry(mine)}>
                show
              </button>
              <button
                type="button"
                className="underline"
                aria-label={`Remove ${s.name}`}
                onClick={() =>
                  edit((a) =>
                    client.DELETE("/api/jobs/{job_id}/spots/{row_id}", {
                      params: row(a, s.id ?? ""),
                    }),
                  )
                }
              >
                remove
              </button>
            </>
          ))}
      </td>
    </tr>
  );
}

const FIELD = "h-8 rounded-sm border border-tick bg-field px-2 text-[13px]";

function NewPlace() {
  const { edit } = useWrites();
  const empty = { name: "", bearing_deg: "", distance_m: "", mount_height_m: "", cable_m: "10" };
  const [typed, set] = useState(empty);
  const [refused, refuse] = useState<Refusal | null>(null);
  const add = async (e: FormEvent) => {
    e.preventDefault();
    const body = {
      ...typed,
      bearing_deg: typed.bearing_deg || "0",
      distance_m: typed.distance_m || "0",
    };
    const said = await edit((a) => client.POST("/api/jobs/{job_id}/spots", { params: a, body }));
    refuse(said);
    if (!said) set(empty);
  };
  const input = (key: keyof typeof empty, label: string, width: string) => (
    <label>
      <span className="sr-only">{label}</span>
      <input
        className={`${FIELD} ${width}`}
        placeholder={label}
        value={typed[key]}
        required={key === "name"}
        onChange={(e) => set({ ...typed, [key]: e.target.value })}
      />
    </label>
  );
  return (
    <form onSubmit={add} className="mt-2 flex flex-wrap items-center gap-3 text-[13px]">
      <b>+</b>
      {input("name", "Place name", "w-40")}
      {input("bearing_deg", "bearing °T", "w-24")}
      {input("distance_m", "metres away", "w-28")}
      {input("mount_height_m", "mount height", "w-28")}
      {input("cable_m", "cable", "w-20")}
      <button type="submit" className="plain-button">
        Add place
      </button>
      <Why refused={refused} />
    </form>
  );
}
