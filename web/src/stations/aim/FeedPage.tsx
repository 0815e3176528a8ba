import { type FormEvent, useState } from "react";
import { RemoveButton } from "../../parts/rows";
import { Cell, Head, Table, Title } from "../../parts/table";
import { NumberField, Why } from "../../parts/Value";
import type { AimDetail, DishRow, Refusal } from "../../service/client";
import { useJob } from "../../service/job";
import { Say, useShown } from "../../units/showing";
import { figureOf, inUnit, shown, unitName } from "../../units/units";
import { useAimWrites } from "./useAimWrites";

/** Where the feed goes on this reflector, and the log of tries with the next one proposed. */
export function FeedPage({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const { set } = useAimWrites(antenna.id);
  const horn = detail.feedhorn;
  const measure = (
    label: string,
    key: "reflector_height_mm" | "reflector_width_mm" | "reflector_depth_mm",
    name: string,
  ) => (
    <div className="flex items-baseline justify-between gap-3 border-line border-b py-1">
      <span>{name}</span>
      <NumberField
        label={label}
        value={antenna[key]}
        unit="mm"
        digits={0}
        width={60}
        commit={(t) => set({ [key]: t })}
      />
    </div>
  );
  return (
    <div className="grid grid-cols-[minmax(0,0.8fr)_minmax(0,1.2fr)] gap-x-10 gap-y-6 max-lg:grid-cols-1">
      <section aria-label="Reflector" className="text-dense">
        <Title note="three measures give the focus">Reflector</Title>
        <div className="border-line border-t">
          {measure("Reflector, long axis", "reflector_height_mm", "rim to rim, the long way")}
          {measure("Reflector, short axis", "reflector_width_mm", "rim to rim, the short way")}
          {measure(
            "Deepest point below the rim",
            "reflector_depth_mm",
            "deepest point below a straight edge",
          )}
        </div>
        <p className="m-0 mt-2">
          Focal length{" "}
          <b>
            <Say it={[{ value: horn.focal_mm, unit: "mm", digits: 0 }]} />
          </b>
          , f/D <b className="num">{figureOf(horn.focal_ratio, 2)}</b>, the rim stands{" "}
          <b className="num">±{figureOf(horn.half_angle_deg, 0)}°</b> from the feed.
        </p>
        <ul className="m-0 mt-2 list-none border-line border-t p-0">
          {horn.words.map((w, i) => (
            <li key={i} className="border-line border-b py-1">
              <Say it={w} />
            </li>
          ))}
        </ul>
      </section>
      <Tries detail={detail} antenna={antenna} />
    </div>
  );
}

const FIELD = "num h-8 w-20 rounded-sm border border-tick bg-field px-2 text-right text-dense";
const EMPTY = {
  depth_mm: "",
  sideways_mm: "",
  height_mm: "",
  skew_deg: "",
  reading: "",
  channels: "",
};
const LABELS: Record<keyof typeof EMPTY, string> = {
  depth_mm: "depth",
  sideways_mm: "side",
  height_mm: "height",
  skew_deg: "skew °",
  reading: "reads dB",
  channels: "channels",
};

function Tries({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const job = useJob("feed_tries");
  const { trial, remove } = useAimWrites(antenna.id);
  const at = useShown();
  const mm = unitName("mm", at);
  const rows = (job.feed_tries ?? []).filter((t) => t.antenna === antenna.id);
  const [typed, setTyped] = useState(EMPTY);
  const [refused, refuse] = useState<Refusal | null>(null);
  const next = detail.tries.following;
  const add = async (e: FormEvent) => {
    e.preventDefault();
    const zero = (t: string) => inUnit(t || "0", "mm", at);
    const said = await trial({
      ...typed,
      depth_mm: zero(typed.depth_mm),
      sideways_mm: zero(typed.sideways_mm),
      height_mm: zero(typed.height_mm),
      skew_deg: typed.skew_deg || "0",
    });
    refuse(said);
    // What was typed while the answer was on its way stays.
    if (!said) setTyped((now) => (now === typed ? EMPTY : now));
  };
  const fill = () =>
    next &&
    setTyped({
      ...EMPTY,
      depth_mm: `${next.depth_mm} mm`,
      sideways_mm: `${next.sideways_mm} mm`,
      height_mm: `${next.height_mm} mm`,
      skew_deg: String(next.skew_deg),
    });
  return (
    <section aria-label="Log of tries">
      <p role="status" className="m-0 mb-2 font-bold text-body">
        {next ? next.words : "Every axis has its top: this is the place. Mark it and tighten."}
      </p>
      <Table
        title="Log of tries"
        least={520}
        heads={
          <>
            {(Object.keys(LABELS) as (keyof typeof LABELS)[]).map((k) => (
              <Head key={k} right>
                {LABELS[k]}
                {k.endsWith("_mm") ? ` ${mm}` : ""}
              </Head>
            ))}
            <Head>
              <span className="sr-only">Remove</span>
            </Head>
          </>
        }
      >
        {rows.map((t, i) => (
          <tr
            key={t.id}
            className={`border-line border-b ${t.id === detail.tries.best ? "bg-paper font-bold" : ""}`}
          >
            <th scope="row" className="py-1">
              {i + 1} {t.id === detail.tries.best && <span className="text-ok">best</span>}
            </th>
            <Cell right>{shown(t.depth_mm, "mm", 0, at).figure}</Cell>
            <Cell right>{shown(t.sideways_mm ?? 0, "mm", 0, at).figure}</Cell>
            <Cell right>{shown(t.height_mm ?? 0, "mm", 0, at).figure}</Cell>
            <Cell right>{figureOf(t.skew_deg ?? 0, 0)}</Cell>
            <Cell right>{figureOf(t.reading, 1)}</Cell>
            <Cell right>{t.channels ?? ""}</Cell>
            <td>
              <RemoveButton
                mark
                label={`Remove try ${i + 1}`}
                remove={() => remove("feed_tries", t.id)}
              />
            </td>
          </tr>
        ))}
      </Table>
      <form onSubmit={add} className="mt-2 flex flex-wrap items-center gap-2 text-dense">
        {(Object.keys(EMPTY) as (keyof typeof EMPTY)[]).map((k) => (
          <label key={k}>
            <span className="sr-only">
              Try, {LABELS[k]}
              {k.endsWith("_mm") ? ` ${mm}` : ""}
            </span>
            <input
              className={FIELD}
              placeholder={k.endsWith("_mm") ? mm : LABELS[k].replace(/^\w+ ?/, "") || "count"}
              required={k === "reading"}
              value={typed[k]}
              onChange={(e) => setTyped({ ...typed, [k]: e.target.value })}
            />
          </label>
        ))}
        <button type="submit" className="plain-button">
          Log it
        </button>
        {next && (
          <button type="button" className="underline" onClick={fill}>
            fill in the next try
          </button>
        )}
      </form>
      <Why refused={refused} />
    </section>
  );
}
