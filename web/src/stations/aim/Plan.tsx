import { type ComponentType, useState } from "react";
import { BearingRing } from "../../instruments/BearingRing";
import { DishSide } from "../../instruments/DishSide";
import { Answer, BigFigure } from "../../instruments/Figure";
import { LnbFace } from "../../instruments/LnbFace";
import { StateMark, WORD } from "../../instruments/StateMark";
import { PictureRegion } from "../../parts/PictureRegion";
import { Problems } from "../../parts/Problems";
import { RefusalWords } from "../../parts/RefusalWords";
import { type Page, PageTabs, PickTabs, usePageOf, useParam } from "../../parts/Tabs";
import { Choice, NumberField } from "../../parts/Value";
import type { Aim, AimDetail, Antenna, DishRow } from "../../service/client";
import { useAnswers, useJob } from "../../service/job";
import { useAim } from "../../service/pages";
import type { Typed } from "../../service/rows";
import { Say, useShown } from "../../units/showing";
import { figureOf } from "../../units/units";
import { AddAntenna } from "../AddAntenna";
import { antennasOf } from "../antennas";
import { useStationWrites } from "../edits";
import { ArrayPanels } from "./array/ArrayPanels";
import { ArrayPages } from "./array/pages";
import { FeedPage } from "./FeedPage";
import { Find } from "./Find";
import { Motor } from "./Motor";
import { Notes, Panel } from "./Panel";
import { Peak } from "./Peak";
import { Portable } from "./Portable";
import { Row } from "./Row";
import { Tools } from "./Tools";
import { TwoWay } from "./TwoWay";
import { Which } from "./Which";

const DATUMS = [
  ["face", "the face, from plumb"],
  ["face_level", "rim to rim, from level"],
  ["scale", "the mount's own scale"],
  ["structure", "the back structure"],
] as const;

export default function AimPlan() {
  const job = useJob("arrays", "dishes", "rig");
  const { aim } = useAnswers("aim");

  const [chosen, choose] = useParam("antenna");
  const a = aim.aims.find((x) => x.antenna === chosen) ?? aim.aims[0];
  const antenna = antennasOf(job).find((x) => x.id === a?.antenna);
  const pages = pagesOf(antenna, job.rig?.kind ?? "none");
  const [page, open] = usePageOf(pages);
  const [feed, setFeed] = useState("");
  const { data, error } = useAim(antenna?.kind === "dish" ? antenna.id : null, feed);
  if (!a || !antenna)
    return (
      <div className="px-6 py-4">
        <p className="m-0 mb-3 max-w-xl">
          No antenna has a target yet. Add the targets at Sky, then the antenna that looks at one.
        </p>
        <AddAntenna />
        <div className="mt-6">
          <Problems rows={aim.problems} />
        </div>
      </div>
    );
  const detail = data && data.aim.antenna === antenna.id ? data : undefined;
  return (
    <>
      {page !== "portable" && <Answers a={a} chosen={a.antenna} choose={choose} />}
      {a.elevation_deg < 0 && a.kind === "dish" && (
        <p role="alert" className="m-0 border-fail border-b-2 px-6 py-2 text-body">
          <b className="text-fail">{a.target_name} stands below the horizon here:</b> these figures
          point into the ground. Choose another satellite at Sky, or check the position's signs.
        </p>
      )}
      {page !== "portable" && <Instruments a={a} antenna={antenna} />}
      {antenna.kind === "dish" && (
        <PageTabs pages={pages} open={page} onOpen={open} label="Pages of Aim">
          {(key) => {
            const Body = PAGES[key];
            return (
              <>
                {error && (
                  <p role="alert" className="m-0 text-dense">
                    <RefusalWords it={error} />
                  </p>
                )}
                {detail && Body && (
                  <Body key={antenna.id} detail={detail} antenna={antenna} onFeed={setFeed} />
                )}
              </>
            );
          }}
        </PageTabs>
      )}
      {antenna.kind === "array" && <ArrayPages key={antenna.id} antenna={antenna} />}
      <div className="grid grid-cols-1 gap-6 border-line border-t px-6 py-4 max-md:px-4">
        <AddAntenna />
        {aim.problems.length > 0 && <Problems rows={aim.problems} />}
      </div>
    </>
  );
}

type Body = { detail: AimDetail; antenna: DishRow; onFeed: (feed: string) => void };

const PAGES: Record<string, ComponentType<Body>> = {
  portable: Portable,
  peak: Peak,
  find: Find,
  which: Which,
  tools: Tools,
  row: Row,
  motor: Motor,
  feed: FeedPage,
  twoway: TwoWay,
};

function pagesOf(antenna: Antenna | undefined, rig: string): Page[] {
  const dish = antenna?.kind === "dish" ? antenna : undefined;
  return [
    ...(rig !== "none" ? [{ key: "portable", name: "Set up here" }] : []),
    ...(dish?.mounting === "polar" ? [{ key: "motor", name: "Motor" }] : []),
    ...(dish?.mounting === "multi" ? [{ key: "row", name: "Several satellites" }] : []),
    { key: "peak", name: "Peak" },
    { key: "find", name: "Find" },
    { key: "which", name: "Which satellite" },
    { key: "tools", name: "Tools and mount" },
    ...(dish?.mounting === "fixed" ? [{ key: "row", name: "Several satellites" }] : []),
    { key: "feed", name: "Feed" },
    ...(dish?.two_way ? [{ key: "twoway", name: "Two-way" }] : []),
  ];
}

function Instruments({ a, antenna }: { a: Aim; antenna: Antenna }) {
  const job = useJob("date");
  const { aim, sky } = useAnswers("aim", "sky");

  return (
    <div className="grid grid-cols-[340fr_392fr_339fr] border-line border-b max-lg:grid-cols-1">
      <Panel title="Bearing" note="outer true, inner compass, letters from Sky">
        <PictureRegion name="Bearing ring">
          <BearingRing
            azimuth={a.azimuth_deg}
            compass={a.compass_deg}
            declination={aim.declination_deg}
            skyline={sky.skyline}
            others={sky.targets
              .filter((t) => t.sight && t.id !== a.target)
              .map((t) => ({ name: t.name, azimuth: t.sight!.azimuth_deg }))}
          />
        </PictureRegion>
        <Notes>
          <p className="m-0">{a.sight_line}</p>
          <p className="m-0">
            Declination{" "}
            <span className="num">
              {aim.declination_deg == null
                ? "not known"
                : `${figureOf(Math.abs(aim.declination_deg), 1)}° ${aim.declination_deg < 0 ? "W" : "E"}`}
            </span>{" "}
            on {job.date}, <Say it={[{ value: 2, unit: "m", digits: 0 }]} /> from steel.
          </p>
        </Notes>
      </Panel>
      {antenna.kind === "dish" ? (
        <Dish a={a} antenna={antenna} />
      ) : (
        <ArrayPanels a={a} antenna={antenna} />
      )}
    </div>
  );
}

function Answers({ a, chosen, choose }: { a: Aim; chosen: string; choose: (id: string) => void }) {
  const answers = useAnswers("aim");
  const at = useShown();
  const cells = [
    <Answer key="t" title="azimuth, true" more="for map and plan">
      <BigFigure value={a.azimuth_deg} unit="deg_true" />
    </Answer>,
    <Answer key="m" title="by compass" more="declination taken off">
      <BigFigure value={a.compass_deg} unit="deg_mag" />
    </Answer>,
  ];
  return (
    <section
      aria-label="Answer"
      className="flex min-h-[100px] flex-wrap gap-y-3 border-line border-b px-6 py-2.5 max-md:grid max-md:grid-cols-2 max-md:px-4"
    >
      <PickTabs
        label="Antenna"
        items={answers.aim.aims.map((x) => ({
          key: x.antenna,
          body: (
            <>
              <StateMark state={x.state} size={17} />
              <span className="truncate">
                {x.target_name}, {x.name}
              </span>
              <span className="sr-only">{WORD[x.state]}</span>
            </>
          ),
        }))}
        open={chosen}
        onOpen={choose}
        className="w-[172px] shrink-0 max-md:col-span-2 max-md:w-full"
        tab="flex min-h-[25px] w-full items-center gap-2 border-transparent border-l-[3px] pl-2 text-left text-dense text-muted data-selected:border-copper data-selected:font-bold data-selected:text-ink max-md:min-h-11"
      />
      {at.north === "compass" ? cells.reverse() : cells}
      <Answer title="elevation" more="of the beam">
        <BigFigure value={a.elevation_deg} unit="deg" />
      </Answer>
      {a.inclinometer_deg != null && (
        <Answer title="inclinometer" more={a.inclinometer_words}>
          <BigFigure value={a.inclinometer_deg} unit="deg" />
        </Answer>
      )}
      <Answer
        title={
          a.skew_deg == null
            ? "polarisation"
            : `${a.skew_turns === "dish" ? "tilt" : "LNB"} ${a.skew_short}`
        }
        more={
          a.skew_deg != null
            ? a.skew_view === "behind"
              ? "seen from behind"
              : "seen from in front"
            : a.skew_words
        }
      >
        {a.skew_deg != null ? (
          <BigFigure value={Math.abs(a.skew_deg)} unit="deg" />
        ) : (
          <span className="text-large">{a.skew_short}</span>
        )}
      </Answer>
    </section>
  );
}

function Dish({ a, antenna }: { a: Aim; antenna: DishRow }) {
  const { dish: write } = useStationWrites();
  const set = (body: Typed<DishRow>) => write(antenna.id, body);
  const view = a.skew_view as "behind" | "front";
  return (
    <>
      <Panel title="Tilt" note={`${antenna.name} from the side, its angles true`}>
        <div className="h-[236px]">
          <PictureRegion name="Side view of the dish">
            <DishSide
              elevation={a.elevation_deg}
              offset={antenna.offset_deg ?? 0}
              lean={a.face_lean_deg ?? 0}
              reads={a.inclinometer_deg}
              name={a.target_name}
              onStructure={antenna.datum === "structure" || antenna.datum === "scale"}
            />
          </PictureRegion>
        </div>
        <Notes>
          Lay it on{" "}
          <Choice
            label="Where the tool is laid"
            value={antenna.datum ?? "face"}
            options={DATUMS}
            onChange={(datum) => set({ datum })}
          />
          .{" "}
          {(antenna.datum === "scale" || antenna.datum === "structure") && (
            <>
              Constant{" "}
              <NumberField
                label="Maker's constant"
                value={antenna.constant_deg}
                unit="deg"
                width={52}
                commit={(t) => set({ constant_deg: t })}
              />
              .{" "}
            </>
          )}
          Offset{" "}
          <NumberField
            label="Offset angle"
            value={antenna.offset_deg}
            unit="deg"
            width={44}
            commit={(t) => set({ offset_deg: t })}
          />
          , dish{" "}
          <NumberField
            label="Dish diameter"
            value={antenna.diameter_m}
            unit="m"
            digits={2}
            width={44}
            commit={(t) => set({ diameter_m: t })}
          />{" "}
          wide
        </Notes>
      </Panel>
      <Panel title="LNB face" note="the mouth, as you see it">
        {a.skew_deg != null ? (
          <PictureRegion name="Face of the LNB">
            <LnbFace turn={a.skew_deg} view={view} />
          </PictureRegion>
        ) : (
          <p className="px-4">{a.skew_words}</p>
        )}
        <Notes>
          <p className="m-0">{a.skew_words}</p>
          Seen from{" "}
          <Choice
            label="Seen from"
            value={view}
            options={[
              ["behind", "behind the dish"],
              ["front", "in front"],
            ]}
            onChange={(skew_view) => set({ skew_view })}
          />
          , zero at{" "}
          <Choice
            label="Zero at"
            value={(a.skew_zero as "V" | "H") ?? "V"}
            options={[
              ["V", "V"],
              ["H", "H"],
            ]}
            onChange={(skew_zero) => set({ skew_zero })}
          />
        </Notes>
      </Panel>
    </>
  );
}
