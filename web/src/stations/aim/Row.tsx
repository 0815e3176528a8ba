import { useState } from "react";
import { FeedBar } from "../../instruments/FeedBar";
import { StateWord } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import { emptied } from "../../parts/emptied";
import { PictureRegion } from "../../parts/PictureRegion";
import { AddRow, NewText, RemoveButton } from "../../parts/rows";
import { Cell, Head, Table, Title } from "../../parts/table";
import { NumberField } from "../../parts/Value";
import type { AimDetail, DishRow } from "../../service/client";
import { useJob } from "../../service/job";
import { useRows } from "../../service/rows";
import { useShown } from "../../units/showing";
import { figureOf, shown, unitName } from "../../units/units";
import { useAimWrites } from "./useAimWrites";

/** Several satellites on one dish: tilt, feed offsets in mm, loss of each, room between them. */
export function Row({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const [ref, width] = useWidth<HTMLDivElement>(470);
  const { set } = useAimWrites(antenna.id);
  const at = useShown();
  const row = detail.row;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-x-8 gap-y-6 max-lg:grid-cols-1">
      <section ref={ref} aria-label="Row of feeds" className="min-w-0">
        {row ? (
          <>
            <h2 className="m-0 mb-1 font-bold text-head">{row.tilt_words}</h2>
            <PictureRegion name="Feed bar">
              <FeedBar row={row} lnbWidth={antenna.lnb_width_mm ?? 60} width={width} />
            </PictureRegion>
          </>
        ) : (
          <p className="m-0 text-dense">
            {antenna.mounting === "polar"
              ? "A motor turns one feed to every satellite: see Motor."
              : "One satellite so far. Add another, and the tilt of the bar and the place of each feed are computed."}
          </p>
        )}
        <p className="m-0 mt-2 text-dense leading-6">
          LNB{" "}
          <NumberField
            label="LNB width"
            value={antenna.lnb_width_mm}
            unit="mm"
            digits={0}
            width={36}
            commit={(t) => set({ lnb_width_mm: t })}
          />{" "}
          wide, f/D{" "}
          <NumberField
            label="f/D"
            value={antenna.focal_ratio}
            unit="count"
            digits={2}
            width={40}
            commit={(t) => set({ focal_ratio: t })}
          />
          {row && (
            <>
              , focal length{" "}
              <b className="num">
                {shown(row.focal_mm, "mm", 0, at).figure} {unitName("mm", at)}
              </b>
              , beam deviation <b className="num">{figureOf(row.beam_deviation, 2)}</b>; two feeds
              side by side need satellites{" "}
              <b className="num">{figureOf(row.least_spacing_deg, 1)}°</b> apart.
            </>
          )}
        </p>
      </section>
      <section aria-label="Satellites of this dish">
        <Feeds detail={detail} antenna={antenna} />
        <Add antenna={antenna} />
        <Zones detail={detail} antenna={antenna} />
      </section>
    </div>
  );
}

function Feeds({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const job = useJob("feeds");
  const feeds = useRows("feeds");
  const at = useShown();
  const mm = unitName("mm", at);
  const { remove } = useAimWrites(antenna.id);
  if (!detail.row) return null;
  return (
    <Table
      title="Feeds"
      least={500}
      heads={
        <>
          <Head right>along °</Head>
          <Head right>feed {mm}</Head>
          <Head right>set at {mm}</Head>
          <Head right>LNB turn °</Head>
          <Head right>loss dB</Head>
          <Head right>room {mm}</Head>
          <Head>
            <span className="sr-only">Remove</span>
          </Head>
        </>
      }
    >
      {detail.row.feeds.map((f) => {
        const feed = (job.feeds ?? []).find(
          (x) => x.antenna === antenna.id && x.target === f.line.target,
        );
        return (
          <tr key={f.line.target} className="border-line border-b">
            <th scope="row" className="py-1.5">
              <span className="flex items-center gap-2">
                <StateWord state={f.state as "ok"} /> <b>{f.line.name}</b>
                {!feed && <span className="text-muted">in the focus</span>}
              </span>
            </th>
            <Cell right>{figureOf(f.line.across_deg, 2)}</Cell>
            <Cell right>{shown(f.line.offset_mm, "mm", 0, at).figure}</Cell>
            <Cell right>
              {feed && (
                <NumberField
                  label={`Feed of ${f.line.name} set at`}
                  value={feed.placed_mm}
                  unit="mm"
                  digits={0}
                  width={44}
                  showUnit={false}
                  commit={(t) => feeds.set(feed.id, { placed_mm: t })}
                />
              )}
            </Cell>
            <Cell right>{f.lnb_turn_deg == null ? "none" : figureOf(f.lnb_turn_deg, 1)}</Cell>
            <Cell right>{figureOf(f.line.loss_db, 1)}</Cell>
            <Cell right>
              {f.line.gap_mm == null ? "" : shown(f.line.gap_mm, "mm", 0, at).figure}
            </Cell>
            <td>
              {feed && (
                <RemoveButton
                  mark
                  label={`Take ${f.line.name} off the dish`}
                  remove={() => remove("feeds", feed.id)}
                />
              )}
            </td>
          </tr>
        );
      })}
    </Table>
  );
}

/** A maker's zone presets as his sheet gives them; the nearest one is named. */
function Zones({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const { preset, remove } = useAimWrites(antenna.id);
  const [name, setName] = useState("");
  const [tilt, setTilt] = useState("");
  if (!detail.row) return null;
  const add = async () => {
    const said = await preset(name, tilt);
    if (!said) {
      setName(emptied(name));
      setTilt(emptied(tilt));
    }
    return said;
  };
  return (
    <div className="mt-4 text-dense">
      <Title note="tilt by zone, from the sheet of a preset mount">Maker's zones</Title>
      {detail.row.zone && (
        <p role="status" className="m-0 font-bold">
          {detail.row.zone}
        </p>
      )}
      <ul className="m-0 list-none p-0">
        {detail.row.zones.map(([id, zone, degrees, off]) => (
          <li key={String(id)} className="flex items-center gap-4 border-line border-b py-0.5">
            <b className="w-24">{zone}</b>
            <span className="num w-16 text-right">{figureOf(Number(degrees), 1)}°</span>
            <span className="num w-20 text-right text-muted">
              {Number(off) > 0 ? "+" : ""}
              {figureOf(Number(off), 1)}°
            </span>
            <RemoveButton
              mark
              label={`Remove zone ${zone}`}
              remove={() => remove("presets", String(id))}
              className="ml-auto h-6 w-6"
            />
          </li>
        ))}
      </ul>
      <AddRow button="Add zone" add={add}>
        <NewText label="Zone" value={name} change={setName} hint="zone 7" width="w-24" required />
        <NewText
          label="Tilt of the zone"
          value={tilt}
          change={setTilt}
          hint="tilt °"
          width="w-20"
          required
        />
      </AddRow>
    </div>
  );
}

function Add({ antenna }: { antenna: DishRow }) {
  const job = useJob("feeds", "targets");
  const { feed } = useAimWrites(antenna.id);
  const taken = new Set([
    antenna.target,
    ...(job.feeds ?? []).filter((f) => f.antenna === antenna.id).map((f) => f.target),
  ]);
  const free = (job.targets ?? []).filter((t) => t.kind === "satellite" && !taken.has(t.id));
  const [chosen, choose] = useState("");
  if (!free.length)
    return <p className="m-0 mt-2 text-dense text-muted">Further satellites are added at Sky.</p>;
  const id = free.some((t) => t.id === chosen) ? chosen : free[0]!.id;
  return (
    <p className="m-0 mt-2 flex items-center gap-3 text-dense">
      <b>+</b>
      <select
        aria-label="One more satellite"
        value={id}
        onChange={(e) => choose(e.target.value)}
        className="h-8 rounded-sm border border-tick bg-field px-2"
      >
        {free.map((t) => (
          <option key={t.id} value={t.id}>
            {t.name} {Math.abs(t.orbit_deg_e ?? 0).toFixed(1)}°{" "}
            {(t.orbit_deg_e ?? 0) >= 0 ? "E" : "W"}
          </option>
        ))}
      </select>
      <button type="button" className="plain-button" onClick={() => feed(id)}>
        Add to this dish
      </button>
    </p>
  );
}
