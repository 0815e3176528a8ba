import { Answer, BigFigure, Digits } from "../../../instruments/Figure";
import { HeadingStrip } from "../../../instruments/HeadingStrip";
import { StateWord } from "../../../instruments/StateMark";
import { useWidth } from "../../../instruments/useWidth";
import { PictureRegion } from "../../../parts/PictureRegion";
import { Cell, Head, Table, Title } from "../../../parts/table";
import { Choice, NumberField } from "../../../parts/Value";
import type { State } from "../../../service/client";
import { useAnswers } from "../../../service/job";
import type { Behind } from "../../../service/pages";
import { useShown } from "../../../units/showing";
import { figureOf } from "../../../units/units";
import type { ArrayPage } from "./page";
import { useArrayWrites } from "./useArrayWrites";

/** Services against heading, the best one, what it costs toward each transmitter, other ways. */
export function HeadingPage({ detail, antenna, behind, setBehind }: ArrayPage) {
  const answers = useAnswers("aim");
  const at = useShown();
  const { set, second } = useArrayWrites(antenna.id);
  const [ref, width] = useWidth<HTMLDivElement>(760);
  const declination = answers.aim.declination_deg;
  const shift = at.north === "compass" && declination != null ? declination : 0;
  const unit = shift ? "deg_mag" : "deg_true";
  const best = detail.best;
  if (!best) return <p className="m-0 text-dense">No wanted service falls to this antenna yet.</p>;
  const off = detail.off_best_deg;
  const there = off != null && off < 0.6;
  const wide = (best.to_deg - best.from_deg + 360) % 360;
  const shown = (deg: number) => (deg - shift + 360) % 360;
  const two = detail.ways.find((w) => w.key === "two");
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap gap-y-3 max-md:grid max-md:grid-cols-2">
        <Answer
          title="best heading"
          more={
            wide >= 358
              ? "any heading serves as well"
              : `as good from ${figureOf(shown(best.from_deg), 0)}° to ${figureOf(shown(best.to_deg), 0)}°`
          }
        >
          <BigFigure value={shown(best.heading_deg)} unit={unit} digits={0} />
        </Answer>
        <Answer title="services there" more={`now ${detail.now?.services ?? 0} of ${best.of}`}>
          <span className="whitespace-nowrap">
            <Digits text={String(best.services)} />
            <span className="mx-2 text-figure">of</span>
            <Digits text={String(best.of)} />
          </span>
        </Answer>
        <Answer title="weakest of them" more={`wanted ${detail.margin_db} dB over its threshold`}>
          <BigFigure value={best.least_db} unit="db" tone={best.services ? undefined : "fail"} />
        </Answer>
        <div className="flex-1 border-line border-l px-4 text-dense leading-6">
          Looks now{" "}
          <NumberField
            label="Heading"
            value={detail.heading_deg}
            unit="deg_true"
            width={52}
            commit={(t) => set({ heading_deg: t, stands_at: null })}
          />
          <br />
          <button
            type="button"
            className={there ? "plain-button" : "copper-button"}
            disabled={there}
            onClick={() => set({ heading_deg: String(best.heading_deg), stands_at: null })}
          >
            {there ? "It stands there" : "Take the best heading"}
          </button>
        </div>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_340px] gap-x-6 gap-y-5 max-xl:grid-cols-1">
        <section aria-label="Services against heading" ref={ref} className="min-w-0">
          <PictureRegion name="Heading strip">
            <HeadingStrip detail={detail} width={width} shift={shift} />
          </PictureRegion>
        </section>
        <Costs detail={detail} shift={shift} />
      </div>
      <section aria-label="Ways to get them all" className="min-w-0">
        <Table
          title="Ways to get them all"
          heads={
            <>
              <Head right>headings</Head>
              <Head right>services</Head>
              <Head right>weakest dB</Head>
              <Head wide>what it is</Head>
            </>
          }
        >
          {detail.ways.map((w) => (
            <tr
              key={w.key}
              className={`border-line border-b ${w.key === detail.advised ? "bg-paper" : ""}`}
            >
              <th scope="row" className="whitespace-nowrap py-1.5 pl-2 font-semibold">
                {w.name}
                {w.key === detail.advised && (
                  <span className="ml-2 font-normal text-ok">advised</span>
                )}
              </th>
              <Cell right>{w.headings_deg.map((h) => `${figureOf(shown(h), 0)}°`).join(", ")}</Cell>
              <Cell right>
                {w.services} of {w.of}
              </Cell>
              <Cell right>{figureOf(w.least_db, 1)}</Cell>
              <td className="pl-6 text-muted">{w.words}</td>
            </tr>
          ))}
        </Table>
        <p className="m-0 mt-2 flex flex-wrap items-center gap-x-4 gap-y-2 text-dense">
          <span>{detail.advice}</span>
          {two && detail.advised === "two" && (
            <button
              type="button"
              className="plain-button"
              onClick={() => second(two.headings_deg[0] ?? 0, two.headings_deg[1] ?? 0)}
            >
              Build two with a combiner
            </button>
          )}
        </p>
      </section>
      <p className="m-0 text-dense">
        Judged{" "}
        <Choice<Behind>
          label="Judged"
          value={behind}
          options={[
            ["run", "through the run as it is"],
            ["preamplifier", "as if a mast preamplifier made up for the run"],
          ]}
          onChange={setBehind}
        />
        : {detail.beyond}.
      </p>
    </div>
  );
}

function Costs({ detail, shift }: { detail: ArrayPage["detail"]; shift: number }) {
  const side = detail.costs.filter((t) => t.lost_db > 12 && t.services > 0);
  return (
    <section aria-label="What the best heading costs" className="text-dense">
      <Title note="at the best heading">What it costs</Title>
      {detail.costs.map((t) => {
        const state: State = t.services === t.of ? "ok" : t.services ? "marginal" : "fail";
        return (
          <div key={t.target} className="border-line border-b py-1.5">
            <div className="flex items-center gap-3">
              <b className="flex-1">{t.name}</b>
              <span className="num">{figureOf((t.bearing_deg - shift + 360) % 360, 0)}°</span>
              <b className="num w-20 text-right">{figureOf(-Math.max(t.lost_db, 0), 1)} dB</b>
              <StateWord state={state} />
            </div>
            <div className="text-muted">
              {t.services} of {t.of} services, weakest {figureOf(t.least_db, 1)} dB over its
              threshold
            </div>
          </div>
        );
      })}
      {side.length > 0 && (
        <p className="m-0 mt-2">
          {side.map((t) => t.name).join(" and ")} would come in beside the main lobe: a real pattern
          has nulls there. Try it on site before it is promised.
        </p>
      )}
    </section>
  );
}
