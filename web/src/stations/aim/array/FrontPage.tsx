import { BracketGauge } from "../../../instruments/BracketGauge";
import { StateWord } from "../../../instruments/StateMark";
import { Head, Table, Title } from "../../../parts/table";
import { NumberField } from "../../../parts/Value";
import type { FrontEnd, Gauge } from "../../../service/client";
import { useJob } from "../../../service/job";
import { Say, useShown } from "../../../units/showing";
import { figureOf, shown } from "../../../units/units";
import { useStationWrites } from "../../edits";
import type { ArrayPage } from "./page";
import { useArrayWrites } from "./useArrayWrites";

/** Preamplifier or not: the answer, its reason, and the run solved with each. */
export function FrontPage({ detail, antenna }: ArrayPage) {
  const { front: take } = useArrayWrites(antenna.id);
  const front = detail.front;
  if (!front)
    return (
      <p className="m-0 text-dense">
        This antenna reaches no outlet yet: start the run at it at Coax, then its front end is
        worked out.
      </p>
    );
  const advised = front.options.find((o) => o.key === front.advised);
  return (
    <div className="grid gap-4">
      <section aria-label="Front end answer" className="max-w-4xl">
        <h2 className="m-0 text-large font-normal leading-8">{front.title}</h2>
        <p className="m-0 mt-1 text-body">
          <Say it={front.reason} />
        </p>
        {front.beyond_help && <p className="m-0 mt-1 text-body">{front.beyond_help}</p>}
        {front.change ? (
          <button type="button" className="copper-button mt-2" onClick={() => take(front.advised)}>
            {front.advised === "none" ? "Take it out" : `Build it: ${advised?.name}`}
          </button>
        ) : (
          <p className="m-0 mt-2 font-semibold text-ok">The network already has this front end.</p>
        )}
      </section>
      <div className="grid grid-cols-[minmax(0,1fr)_270px] gap-x-6 gap-y-5 max-xl:grid-cols-1">
        <Options front={front} detail={detail} onTake={take} />
        <Loud front={front} />
      </div>
    </div>
  );
}

function Options({
  front,
  detail,
  onTake,
}: {
  front: FrontEnd;
  detail: ArrayPage["detail"];
  onTake: (key: string) => void;
}) {
  const at = useShown();
  const level = shown(0, "dbuv", 0, at).unit;
  const margin = (value: number): Gauge => ({
    value: Math.max(value, -30),
    unit: "db",
    low: detail.margin_db,
    high: null,
    reserve: 3,
    state: value < detail.margin_db ? "fail" : value < detail.margin_db + 3 ? "marginal" : "ok",
  });
  return (
    <section aria-label="Front ends tried" className="min-w-0">
      <Table
        title="Under the antenna"
        least={660}
        heads={
          <>
            <Head wide>weakest dB over</Head>
            <Head right>outlets {level}</Head>
            <Head wide>sum against rating, {level}</Head>
            <Head>
              <span className="sr-only">Take it</span>
            </Head>
          </>
        }
      >
        {front.options.map((o) => (
          <tr
            key={o.key}
            className={`border-line border-b ${o.key === front.advised ? "bg-paper" : ""}`}
          >
            <th scope="row" className="py-1.5 pl-2 font-semibold">
              {o.name}
              <span className="block font-normal text-muted">
                {o.now ? "as it is; " : ""}weakest {o.weakest}
              </span>
            </th>
            <td className="pl-6">
              <span className="flex items-center gap-2">
                <BracketGauge gauge={margin(o.margin_db)} width={56} />
                <b className="num w-11 text-right">{figureOf(o.margin_db, 1)}</b>
              </span>
            </td>
            <td className="num whitespace-nowrap pl-3 text-right">
              {shown(o.lowest_dbuv, "dbuv", 0, at).figure} to{" "}
              {shown(o.highest_dbuv, "dbuv", 0, at).figure}
              <span className={`block ${o.window_db < 0 ? "text-fail" : "text-muted"}`}>
                {o.window_db < 0 ? `${figureOf(-o.window_db, 0)} dB outside` : "in the window"}
              </span>
            </td>
            <td className="pl-6">
              {o.load.value != null && (
                <span className="flex items-center gap-2">
                  <BracketGauge gauge={o.load} width={56} />
                  <b className="num w-11 text-right">{shown(o.load.value, "dbuv", 1, at).figure}</b>
                  <StateWord state={o.load.state} mark={false} />
                </span>
              )}
            </td>
            <td className="pl-4 text-right">
              {!o.now && o.key !== front.advised && (
                <button
                  type="button"
                  className="whitespace-nowrap text-muted underline"
                  aria-label={`Build ${o.name}`}
                  onClick={() => onTake(o.key)}
                >
                  build
                </button>
              )}
            </td>
          </tr>
        ))}
      </Table>
    </section>
  );
}

function Loud({ front }: { front: FrontEnd }) {
  const job = useJob("site");
  const { site: write } = useStationWrites();
  const at = useShown();
  const site = job.site!;
  return (
    <section aria-label="Strongest at the antenna" className="text-dense">
      <Title note={shown(0, "dbuv", 0, at).unit}>Strongest at the antenna</Title>
      {front.strongest.map((row) => (
        <div
          key={row[0] as string}
          className="flex justify-between gap-3 border-line border-b py-1"
        >
          <span>
            {row[0]} {row[2] ? <span className="text-muted">cellular</span> : null}
          </span>
          <b className="num">{shown(row[1] as number, "dbuv", 1, at).figure}</b>
        </div>
      ))}
      <p className="m-0 mt-2">
        Base station away{" "}
        <NumberField
          label="Base station away"
          value={site.mobile_m}
          unit="m"
          digits={0}
          width={52}
          placeholder="1000"
          commit={(t) => write({ mobile_m: t })}
        />
        , bearing{" "}
        <NumberField
          label="Base station bearing"
          value={site.mobile_bearing_deg}
          unit="deg_true"
          digits={0}
          width={84}
          placeholder="in the beam"
          commit={(t) => write({ mobile_bearing_deg: t })}
        />
      </p>
      <p className="m-0 mt-1 text-muted">
        Taken: <Say it={front.mobile_words} />. Others are entered as transmitters with the
        modulation Mobile OFDM.
      </p>
    </section>
  );
}
