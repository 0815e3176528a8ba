import { useState } from "react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { Answer, BigFigure } from "../../instruments/Figure";
import { StateWord } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import { Waterfall } from "../../instruments/Waterfall";
import { PictureRegion } from "../../parts/PictureRegion";
import { Cell, Head, Table, Title } from "../../parts/table";
import { NumberField } from "../../parts/Value";
import type { LinkAnswer, LinkRow } from "../../service/client";
import { useLink } from "../../service/pages";
import { Say, useShown } from "../../units/showing";
import { figureOf, shown, unitName } from "../../units/units";
import { useStationWrites } from "../edits";
import { Bands } from "./Bands";
import { useDish } from "./useDish";

/** The link budget: is the dish large enough, in clear sky and in rain, and what every term costs. */
export function Link() {
  const { dish, picker } = useDish();
  const { dish: write } = useStationWrites();
  const { data, error } = useLink(dish?.id ?? null);
  const [open, setOpen] = useState<string | null>(null);
  if (!dish)
    return (
      <p className="text-dense">No dish yet: add one at Mast or Aim, then its link is computed.</p>
    );
  if (error) return <p role="alert">{error.detail}</p>;
  if (!data) return null;
  const rows = data.link.satellites.flatMap((s) => s.rows.map((r) => ({ sat: s.name, r })));
  if (!rows.length)
    return (
      <p className="text-dense">
        {dish.name} has no transponders to compute: list them with its satellite, or import them as
        a file.
      </p>
    );
  const weakest = rows.reduce((a, b) => (need(b.r) < need(a.r) ? b : a));
  const chosen = rows.find((x) => x.r.carrier === open) ?? weakest;
  const sizes = data.link.satellites.map((s) => s.smallest_m);
  const sat = data.link.satellites.find((s) => s.name === chosen.sat);
  const smallest = sizes.some((s) => s == null) ? null : Math.max(...(sizes as number[]));
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap items-start gap-y-3 max-md:grid max-md:grid-cols-2">
        <Answer
          title="least margin, clear sky"
          more={`${leastClear(rows).sat} ${leastClear(rows).r.name}`}
        >
          <BigFigure
            value={leastClear(rows).r.margin.value}
            unit="db"
            tone={tone(leastClear(rows).r.margin.value)}
          />
        </Answer>
        <Answer
          title={`margin at ${data.link.availability_pct} %`}
          more={<Rain rain={data.rain} />}
        >
          <BigFigure
            value={weakest.r.rain_margin.value}
            unit="db"
            tone={tone(weakest.r.rain_margin.value)}
          />
        </Answer>
        <Answer
          title="smallest dish"
          more={
            data.rain.state === "ready"
              ? "for every carrier, in that rain"
              : "for every carrier, clear sky"
          }
        >
          {smallest == null ? (
            <span className="text-figure">none up to 12 m</span>
          ) : (
            <BigFigure value={smallest} unit="m" digits={2} />
          )}
        </Answer>
        <div className="max-w-[270px] flex-1 border-line border-l px-4 text-dense leading-6">
          {picker}{" "}
          <NumberField
            label="Dish diameter"
            value={dish.diameter_m}
            unit="m"
            digits={2}
            width={44}
            commit={(t) => write(dish.id, { diameter_m: t })}
          />{" "}
          wide, efficiency{" "}
          <NumberField
            label="Dish efficiency"
            value={dish.efficiency}
            unit="count"
            digits={2}
            width={40}
            commit={(t) => write(dish.id, { efficiency: t })}
          />
          <br />
          wanted{" "}
          <NumberField
            label="Wanted availability"
            value={dish.availability_pct}
            unit="pct"
            digits={2}
            width={52}
            commit={(t) => write(dish.id, { availability_pct: t })}
          />{" "}
          of the year
          <br />
          <span className="text-muted">
            {data.link.lnb}, {figureOf(data.link.lnb_noise_db, 1)} dB
          </span>
          , ground noise{" "}
          <NumberField
            label="Noise picked up from the ground"
            value={dish.ground_k}
            unit="count"
            digits={0}
            width={52}
            placeholder="usual"
            commit={(t) => write(dish.id, { ground_k: t })}
          />{" "}
          K
        </div>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_400px] gap-x-6 gap-y-6 max-xl:grid-cols-1">
        <Rows rows={rows} chosen={chosen.r.carrier} onOpen={setOpen} />
        <Picture sat={chosen.sat} row={chosen.r} />
      </div>
      {sat && <Bands sat={sat} diameter={dish.diameter_m ?? 0.8} />}
    </div>
  );
}

function Picture({ sat, row }: { sat: string; row: LinkRow }) {
  const [ref, width] = useWidth<HTMLDivElement>(400);
  return (
    <section aria-label="Link waterfall" ref={ref} className="min-w-0">
      <Title note={`${sat} ${row.name}`}>Satellite to LNB</Title>
      <PictureRegion name="Link picture">
        <Waterfall row={row} width={width} />
      </PictureRegion>
      <Terms row={row} />
    </section>
  );
}

type Listed = { sat: string; r: LinkRow };
const need = (r: LinkRow) => r.rain_margin.value ?? r.margin.value ?? 99;
const tone = (v: number | null | undefined) => (v != null && v < 0 ? "fail" : undefined);
const leastClear = (rows: Listed[]) =>
  rows.reduce((a, b) => ((b.r.margin.value ?? 99) < (a.r.margin.value ?? 99) ? b : a));

function Rain({ rain }: { rain: LinkAnswer["rain"] }) {
  if (rain.state !== "working") return <>{rain.words}</>;
  return (
    <span role="status" className="flex items-center gap-2">
      {rain.words}
      <progress value={rain.share} max={1} className="h-2 w-16 accent-(--color-copper)" />
    </span>
  );
}

function Rows({
  rows,
  chosen,
  onOpen,
}: {
  rows: Listed[];
  chosen: string;
  onOpen: (id: string) => void;
}) {
  const at = useShown();
  return (
    <Table
      title="Carriers"
      least={590}
      heads={
        <>
          <Head right>wanted</Head>
          <Head right>C/N</Head>
          <Head right>C/I</Head>
          <Head right>rain</Head>
          <Head wide>margin in rain, dB</Head>
          <Head right>% of year</Head>
          <Head right>dish {unitName("m", at)}</Head>
        </>
      }
    >
      {rows.map(({ sat, r }) => {
        const judged = r.rain_margin.value != null ? r.rain_margin : r.margin;
        return (
          <tr
            key={r.carrier}
            className={`border-line border-b ${r.carrier === chosen ? "bg-paper" : ""}`}
          >
            <th scope="row" className="py-1.5">
              <button
                type="button"
                onClick={() => onOpen(r.carrier)}
                aria-pressed={r.carrier === chosen}
                className={`whitespace-nowrap border-l-[3px] pl-2 text-left ${r.carrier === chosen ? "border-copper font-semibold" : "border-transparent"}`}
              >
                {r.name} <span className="text-muted">{sat}</span>
              </button>
            </th>
            <Cell right>{figureOf(r.wanted_db, 1)}</Cell>
            <Cell right>{figureOf(r.cn_db, 1)}</Cell>
            <Cell right>{r.interference_db == null ? "none" : figureOf(r.interference_db, 1)}</Cell>
            <Cell right>{r.rain_db == null ? "" : figureOf(r.rain_db, 1)}</Cell>
            <td className="pl-6">
              <span className="flex items-center gap-2">
                <BracketGauge gauge={judged} width={54} />
                <b className="num w-10 text-right">{figureOf(judged.value ?? 0, 1)}</b>
                <StateWord state={judged.state} mark={false} />
              </span>
            </td>
            <Cell right>
              {r.available_pct == null
                ? ""
                : r.available_pct.toFixed(r.available_pct > 99.9 ? 3 : 2)}
            </Cell>
            <Cell right>
              {r.smallest_m == null ? "none" : shown(r.smallest_m, "m", 2, at).figure}
            </Cell>
          </tr>
        );
      })}
    </Table>
  );
}

function Terms({ row }: { row: LinkRow }) {
  return (
    <details className="mt-2 text-dense">
      <summary className="font-semibold">Every term and where it comes from</summary>
      <dl className="m-0 mt-1 grid grid-cols-[110px_60px_1fr] gap-x-3 gap-y-0.5">
        {row.terms.map((t) => (
          <div key={t.name} className="contents">
            <dt>{t.name}</dt>
            <dd className="num m-0 text-right">{figureOf(t.change_db, 2)}</dd>
            <dd className="m-0 text-muted">
              <Say it={t.said} />
            </dd>
          </div>
        ))}
      </dl>
      <p className="m-0 mt-1">
        C/N {figureOf(row.cn_db, 1)} dB
        {row.interference_db != null && (
          <>
            , with {row.disturber} beside it {figureOf(row.total_db, 1)} dB
          </>
        )}
        ; wanted {figureOf(row.wanted_db, 1)} dB, {row.wanted_origin}.
      </p>
    </details>
  );
}
