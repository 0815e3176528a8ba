import { BracketGauge } from "../../instruments/BracketGauge";
import { SearchPicture } from "../../instruments/SearchPicture";
import { StateWord } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import { PictureRegion } from "../../parts/PictureRegion";
import { Cell, Head, Table, Title } from "../../parts/table";
import { NumberField } from "../../parts/Value";
import type { AimDetail, DishRow } from "../../service/client";
import { useAnswers } from "../../service/job";
import { useShown } from "../../units/showing";
import { figureOf } from "../../units/units";
import { useAimWrites } from "./useAimWrites";

/** The search plan as passes on the sky, and how good each setting has to be. */
export function Find({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const [ref, width] = useWidth<HTMLDivElement>(520);
  return (
    <div className="grid grid-cols-2 gap-x-8 gap-y-6 max-lg:grid-cols-1">
      <section aria-label="Search plan" ref={ref} className="min-w-0">
        <Search detail={detail} width={width} />
      </section>
      <Errors detail={detail} antenna={antenna} />
    </div>
  );
}

export function Search({
  detail,
  width,
  byCompass,
}: {
  detail: AimDetail;
  width: number;
  byCompass?: boolean;
}) {
  const answers = useAnswers("sky");
  const { search, aim } = detail;
  const at = useShown();
  const compass = (byCompass || at.north === "compass") && aim.compass_deg != null;
  const shift = compass ? aim.azimuth_deg - (aim.compass_deg ?? 0) : 0;
  const north = compass ? "°M" : "°T";
  const turn = (deg: number) => figureOf((((deg - shift) % 360) + 360) % 360, 1);
  const n = search.passes.length;
  const others = [
    ...answers.sky.neighbours.map((s) => ({
      name: s.name,
      azimuth: s.azimuth_deg,
      elevation: s.elevation_deg,
    })),
    ...answers.sky.targets
      .filter((t) => t.kind === "satellite" && t.sight?.visible && t.id !== aim.target)
      .map((t) => ({
        name: t.name,
        azimuth: t.sight!.azimuth_deg,
        elevation: t.sight!.elevation_deg,
      })),
  ];
  return (
    <>
      <Title
        note={`${n} pass${n === 1 ? "" : "es"}, about ${Math.ceil(search.seconds / 5) * 5} s at a degree a second`}
      >
        Search plan
      </Title>
      <p className="m-0 mb-1 text-dense">
        Sweep <b className="num">{figureOf(2 * search.half_width_deg, 1)}°</b> in all,{" "}
        <b className="num">{figureOf(search.half_width_deg, 1)}°</b> either side, then go{" "}
        <b className="num">{figureOf(search.step_deg, 1)}°</b>{" "}
        {search.upright ? "on in bearing" : "up, next time down"}, and sweep again.
      </p>
      <PictureRegion name="Search plan">
        <SearchPicture
          plan={search}
          azimuth={aim.azimuth_deg}
          elevation={aim.elevation_deg}
          beamwidth={aim.beamwidth_deg}
          name={aim.target_name}
          others={others}
          shift={shift}
          north={north}
          width={width}
        />
      </PictureRegion>
      <ol className="m-0 mt-2 list-none p-0 text-dense">
        {search.passes.map((p, i) => (
          <li key={p.at_deg} className="border-line border-b py-1">
            <b className="num">{i + 1}</b>{" "}
            {search.upright ? (
              <>
                bearing <b className="num">{turn(p.at_deg)}</b>
                {north}, from <span className="num">{figureOf(p.from_deg, 1)}</span> to{" "}
                <span className="num">{figureOf(p.to_deg, 1)}</span>° up
              </>
            ) : (
              <>
                elevation <b className="num">{figureOf(p.at_deg, 1)}°</b>, from{" "}
                <span className="num">{turn(p.from_deg)}</span> to{" "}
                <span className="num">{turn(p.to_deg)}</span>
                {north}
              </>
            )}
            {p.meets.length > 0 && (
              <span className="text-muted">; meets {p.meets.join(", then ")}</span>
            )}
          </li>
        ))}
      </ol>
      {detail.inclined && <p className="m-0 mt-2 text-dense">{detail.inclined}</p>}
    </>
  );
}

const FIELDS: Record<string, [string, keyof DishRow, number]> = {
  compass: ["Compass good to", "compass_error_deg", 1],
  scale: ["Tool good to", "scale_error_deg", 1],
  plumb: ["Mast out of plumb", "lean_deg", 1],
};

function Errors({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const { set } = useAimWrites(antenna.id);
  return (
    <section aria-label="How good is good enough">
      <Table
        title="How good is good enough"
        least={480}
        heads={
          <>
            <Head right>off by</Head>
            <Head wide>limit</Head>
            <Head right>beam °</Head>
            <Head right>costs dB</Head>
          </>
        }
      >
        {detail.errors.map((e) => {
          const field = FIELDS[e.key];
          return (
            <tr key={e.key} className="border-line border-b">
              <th scope="row" className="py-1.5">
                {e.name}
                <span className="block text-muted">
                  {e.words}
                  {e.key === "plumb" && (
                    <>
                      ; leans toward{" "}
                      <NumberField
                        label="Mast leans toward"
                        value={antenna.lean_bearing_deg}
                        unit="deg_true"
                        digits={0}
                        width={36}
                        commit={(t) => set({ lean_bearing_deg: t })}
                      />
                    </>
                  )}
                </span>
              </th>
              <Cell right>
                {field ? (
                  <NumberField
                    label={field[0]}
                    value={antenna[field[1]] as number}
                    unit="deg"
                    digits={field[2]}
                    width={40}
                    commit={(t) => set({ [field[1]]: t })}
                  />
                ) : (
                  `${figureOf(e.gauge.value ?? 0, 1)}°`
                )}
              </Cell>
              <td className="pl-6">
                <span className="flex items-center gap-2">
                  <BracketGauge gauge={e.gauge} width={80} />
                  <span className="num text-muted">{figureOf(e.gauge.high ?? 0, 1)}°</span>
                  <StateWord state={e.gauge.state} mark={false} />
                </span>
              </td>
              <Cell right>{figureOf(e.beam_deg, 2)}</Cell>
              <Cell right>{e.cost_db >= 60 ? "all" : figureOf(e.cost_db, 1)}</Cell>
            </tr>
          );
        })}
      </Table>
      <p className="m-0 mt-2 text-dense text-muted">
        The beam is <b className="num text-ink">{figureOf(detail.aim.beamwidth_deg, 1)}°</b> wide at
        half power. Limits: 1 dB of level, for skew 20 dB of isolation (common practice, no source).
        What the sweep finds need not be exact; what it cannot find, plumb and skew, must be inside
        its bracket.
      </p>
    </section>
  );
}
