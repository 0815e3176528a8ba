import { BracketGauge } from "../../instruments/BracketGauge";
import { ProfilePicture } from "../../instruments/ProfilePicture";
import { StateWord } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import { PictureRegion } from "../../parts/PictureRegion";
import { NAME_TAB, PickTabs, useParam } from "../../parts/Tabs";
import { Cell, Head, Table, Title } from "../../parts/table";
import { Choice, NumberField, Tick } from "../../parts/Value";
import { client, type MuxLine, type PathView } from "../../service/client";
import { useAnswers, useJob, useWrites } from "../../service/job";
import { usePaths } from "../../service/pages";
import { useRows } from "../../service/rows";
import { Say, useShown } from "../../units/showing";
import { figureOf, shown } from "../../units/units";
import { useStationWrites } from "../edits";
import { Echoes } from "./Echoes";
import { TileBar } from "./Tiles";

const ROUND = ["open", "village", "suburb", "town", "city", "wood"] as const;

/** The way from each transmitter: the ground between, what it costs, what arrives. */
export function Ways() {
  const answers = useAnswers("aim");
  const { data } = usePaths();
  const [chosen, choose] = useParam("transmitter");
  const at = useShown();
  if (!data) return null;
  if (!data.paths.length)
    return (
      <div className="grid gap-4 text-dense">
        <p className="m-0">
          No transmitter with a multiplex is placed yet: take one from Transmitters, or add it under
          Survey.
        </p>
        <TileBar />
      </div>
    );
  const path = data.paths.find((p) => p.target === chosen) ?? data.paths[0]!;
  const shift = at.north === "compass" ? (answers.aim.declination_deg ?? 0) : 0;
  return (
    <div className="grid min-w-0 gap-4">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 text-dense">
        <PickTabs
          label="Transmitter"
          items={data.paths.map((p) => ({
            key: p.target,
            body: p.wanted ? p.name : `${p.name} (not wanted)`,
          }))}
          open={path.target}
          onOpen={choose}
          className="flex flex-wrap gap-x-5"
          tab={NAME_TAB}
        />
        <span className="num">
          {figureOf((path.bearing_deg - shift + 360) % 360, 1)}°{shift ? "M" : "T"},{" "}
          {shown(path.distance_km, "km", 1, at).figure} {shown(0, "km", 0, at).unit}
        </span>
        <span className="text-muted">
          {path.horizon_km == null ? (
            "the ground decides, no horizon"
          ) : (
            <>
              radio horizon {shown(path.horizon_km, "km", 0, at).figure}{" "}
              {shown(0, "km", 0, at).unit}
            </>
          )}
        </span>
      </div>
      <Picture path={path} />
      <div className="grid grid-cols-[minmax(0,1fr)_330px] gap-x-6 gap-y-5 max-xl:grid-cols-1">
        <div className="grid min-w-0 gap-5">
          <Muxes path={path} />
          <Echoes path={path} />
        </div>
        <Losses path={path} />
      </div>
      <TileBar />
    </div>
  );
}

function Picture({ path }: { path: PathView }) {
  const [ref, width] = useWidth<HTMLDivElement>(1020);
  return (
    <div ref={ref} className="min-w-0 border-line border-b">
      <PictureRegion name="Terrain profile">
        <ProfilePicture path={path} width={width} />
      </PictureRegion>
    </div>
  );
}

function Muxes({ path }: { path: PathView }) {
  const at = useShown();
  const level = shown(0, "dbuv", 0, at).unit;
  return (
    <section aria-label={`Multiplexes of ${path.name}`} className="min-w-0">
      <Table
        title="Multiplexes"
        least={640}
        heads={
          <>
            <Head right>RF ch</Head>
            <Head right>MHz</Head>
            <Head>label</Head>
            <Head right>field dBµV/m</Head>
            <Head right>level {level}</Head>
            <Head right>±</Head>
            <Head right>C/N</Head>
            <Head wide>over its threshold, dB</Head>
          </>
        }
      >
        {path.muxes.map((m) => (
          <Mux key={m.carrier} m={m} />
        ))}
      </Table>
      <p className="m-0 mt-1.5 text-dense text-muted">
        At the terminals of {path.antenna_name}
        {path.antenna ? " as it looks now" : ", as no antenna is on the mast yet"}. RF channel is
        what the antenna sees; the label is only a name.
      </p>
    </section>
  );
}

function Mux({ m }: { m: MuxLine }) {
  const at = useShown();
  return (
    <tr className="border-line border-b">
      <th scope="row" className="py-1.5 font-semibold">
        {m.name} <span className="font-normal text-muted">{m.polarisation}</span>
      </th>
      <Cell right>{m.rf_channel ?? ""}</Cell>
      <Cell right>{figureOf(m.frequency_mhz, 0)}</Cell>
      <Cell>{m.label}</Cell>
      <Cell right>{figureOf(m.field_dbuvm, 1)}</Cell>
      <Cell right>
        {shown(m.level_dbuv, "dbuv", 1, at).figure}
        {m.read && (
          <span className="block text-muted">
            read; forecast {shown(m.forecast_dbuv, "dbuv", 1, at).figure}
          </span>
        )}
      </Cell>
      <Cell right>{figureOf(m.spread_db, 0)}</Cell>
      <Cell right>
        {figureOf(m.cn_db, 1)}
        {m.interference_db > 0.5 && (
          <span className="block text-muted">{figureOf(m.interference_db, 0)} lost to others</span>
        )}
      </Cell>
      <td className="pl-6">
        <span className="flex items-center gap-2">
          <BracketGauge gauge={m.margin} width={72} />
          <b className="num w-10 text-right">{figureOf(m.margin.value ?? 0, 1)}</b>
          <StateWord state={m.margin.state} mark={false} />
        </span>
        <span className="text-muted">
          {m.mode} wants {figureOf(m.wanted_cn_db, 1)}
          {m.strong_echoes_db != null &&
            `, ${figureOf(m.mild_echoes_db ?? 0, 1)} to ${figureOf(m.strong_echoes_db, 1)} with echoes`}
        </span>
      </td>
    </tr>
  );
}

function Losses({ path }: { path: PathView }) {
  const { edit } = useWrites();
  const job = useJob("site");
  const { site: write } = useStationWrites();
  const targets = useRows("targets");
  const site = job.site!;
  const m = path.muxes[0];
  const line = (name: string, db: number, said: string) => (
    <div className="contents">
      <dt>{name}</dt>
      <dd className="num m-0 text-right">{figureOf(db, 1)}</dd>
      <dd className="m-0 text-muted">{said}</dd>
    </div>
  );
  const own = path.own_loss_db != null;
  return (
    <section aria-label="Where it goes" className="text-dense">
      <Title note="dB, at the middle multiplex">Where it goes</Title>
      <p className="m-0 mb-1">
        <Say it={path.words} />
      </p>
      <dl className="m-0 grid grid-cols-[84px_44px_1fr] gap-x-3 gap-y-0.5">
        {own
          ? line("own figure", path.own_loss_db ?? 0, "in place of ground, edges, surroundings")
          : line("ground", path.terrain_db, path.source)}
        {!own && path.near_db > 0.05 && line("near by", path.near_db, `over ${path.near_name}`)}
        {!own && path.clutter_db > 0 && line("round it", path.clutter_db, `${site.surroundings}`)}
        {path.pattern_db > 0 && line("sent less", path.pattern_db, "its pattern this way")}
        {m && m.entry_db > 0 && line("covering", m.entry_db, "into the building")}
      </dl>
      {path.missing.length > 0 && (
        <p className="m-0 mt-1.5 font-semibold text-marginal">
          <Say it={path.missing} />
          {!path.known && "; a smooth earth stands for it, good to ±10 dB"}.
        </p>
      )}
      {path.height_note.length > 0 && (
        <p className="m-0 mt-1.5 text-marginal">
          <Say it={path.height_note} />{" "}
          <button
            type="button"
            className="text-ink underline"
            onClick={() => write({ height_m: `${path.house_m.toFixed(1)} m` })}
          >
            Take the tile's height
          </button>
        </p>
      )}
      <p className="m-0 mt-2">
        Round the house{" "}
        <Choice
          label="Round the house"
          value={(site.surroundings ?? "open") as (typeof ROUND)[number]}
          options={ROUND.map((r) => [r, r] as const)}
          onChange={(surroundings) => write({ surroundings })}
        />
        , its loss{" "}
        <NumberField
          label="Loss by surroundings"
          value={site.clutter_db}
          unit="db"
          width={66}
          placeholder="as said"
          commit={(t) => write({ clutter_db: t })}
        />
      </p>
      <p className="m-0 mt-1 text-muted">
        ITU-R P.526 delta-Bullington over the profile, P.452 for surroundings; forecast good to ±
        {figureOf(path.spread_db, 0)} dB.
      </p>
      <p className="m-0 mt-2">
        <Tick
          label={`${path.name} is wanted`}
          on={path.wanted}
          onChange={(wanted) => targets.set(path.target, { wanted })}
        />
      </p>
      <button
        type="button"
        className="mt-2 underline"
        onClick={() => edit((a) => client.POST("/api/jobs/{job_id}/terrain", { params: a }))}
      >
        Read the ground again
      </button>
    </section>
  );
}
