import { useState } from "react";
import { Answer, AnswerStrip, BigFigure, Digits } from "../../instruments/Figure";
import { Skyline } from "../../instruments/Skyline";
import { PictureRegion } from "../../parts/PictureRegion";
import { PageTabs, usePageOf } from "../../parts/Tabs";
import { NumberField, TextField } from "../../parts/Value";
import type { Change } from "../../service/client";
import { useAnswers, useJob } from "../../service/job";
import { usePreview, useSun } from "../../service/pages";
import { sameChange, useRows } from "../../service/rows";
import { useStationWrites } from "../edits";
import { Frequencies } from "./Frequencies";
import { Link } from "./Link";
import { Obstructions } from "./Obstructions";
import { Places } from "./Places";
import { Remedies } from "./Remedies";
import { Senders } from "./Senders";
import { Sun } from "./Sun";
import { Targets } from "./Targets";
import { Ways } from "./Ways";

const PAGES = [
  { key: "survey", name: "Survey" },
  { key: "ways", name: "Way and ground" },
  { key: "senders", name: "Transmitters" },
  { key: "places", name: "Places to mount" },
  { key: "sun", name: "Sun" },
  { key: "link", name: "Link and dish size" },
  { key: "frequencies", name: "Frequencies" },
];

export default function SkyPlan() {
  const job = useJob("date");
  const { sky, aim } = useAnswers("sky", "aim");

  const [page, open] = usePageOf(PAGES);
  const [tried, setTried] = useState<Change | null>(null);
  const [day, setDay] = useState<string>(job.date);
  const offered =
    tried !== null && [...sky.remedies, ...sky.spots].some((r) => sameChange(r.change, tried));
  const found = usePreview(offered ? tried : null).data;
  const preview = offered ? found : undefined;
  const sun = useSun(day);
  const obstructions = useRows("obstructions");
  return (
    <>
      <Answers preview={preview?.sky} />
      <PictureRegion name="Skyline">
        <Skyline
          targets={sky.targets}
          neighbours={sky.neighbours}
          skyline={sky.skyline}
          later={sky.later}
          until={sky.until}
          previewed={
            preview ? (preview.sky.later.length ? preview.sky.later : preview.sky.skyline) : []
          }
          sun={(sun.data?.track ?? []) as [number, number, number][]}
          arc={sky.arc as [number, number, number][]}
          keepClear={sky.keep_clear_deg}
          declination={aim.declination_deg ?? null}
          label={`Skyline: ${sky.figure}`}
          onDrag={(id, to) => obstructions.set(id, to)}
        >
          <Inputs day={day} setDay={setDay} refused={sun.error?.detail} />
        </Skyline>
      </PictureRegion>
      <PageTabs pages={PAGES} open={page} onOpen={open} label="Pages of Sky">
        {(key) => (
          <>
            {key === "survey" && (
              <div className="grid grid-cols-[minmax(0,1fr)_320px] gap-x-6 gap-y-6 max-xl:grid-cols-1">
                <div className="grid min-w-0 content-start gap-6">
                  <Targets />
                  <Obstructions />
                </div>
                <Remedies tried={offered ? tried : null} onTry={setTried} preview={preview} />
              </div>
            )}
            {key === "ways" && <Ways />}
            {key === "senders" && <Senders />}
            {key === "places" && <Places tried={offered ? tried : null} onTry={setTried} />}
            {key === "sun" && <Sun day={day} view={sun.data} />}
            {key === "link" && <Link />}
            {key === "frequencies" && <Frequencies />}
          </>
        )}
      </PageTabs>
    </>
  );
}

function Answers({ preview }: { preview?: import("../../service/client").SkyAnswer }) {
  const job = useJob("date");
  const { sky } = useAnswers("sky");

  const ahead = sky.until > Number(job.date.slice(0, 4));
  const transmitter = sky.targets.find((t) => t.field_dbuvm != null);
  const none = sky.least.value == null || sky.least.value > 90;
  return (
    <AnswerStrip>
      <Answer
        title={ahead ? `targets clear to ${sky.until}` : "targets clear"}
        more={sky.targets.length ? `${sky.clear_now} clear today` : "add one below"}
        state={sky.state}
      >
        <Count clear={sky.clear} of={sky.targets.length} />
      </Answer>
      <Answer
        title={ahead ? `least clearance in ${sky.until}` : "least clearance"}
        more={sky.least_target ? `${sky.least_target} over the skyline` : "no satellite yet"}
      >
        {none ? (
          <span className="text-figure">nothing in the way</span>
        ) : (
          <BigFigure
            value={sky.least.value}
            unit="deg"
            tone={sky.least.state === "fail" ? "fail" : undefined}
          />
        )}
      </Answer>
      {sky.closes != null ? (
        <Answer
          title={`the view to ${sky.closes_target} closes`}
          more="by what grows in front of it"
        >
          <Digits text={String(sky.closes)} />
        </Answer>
      ) : (
        <Answer
          title={transmitter ? `field from ${transmitter.name}` : "no growth closes a view"}
          more={
            transmitter
              ? `forecast over ${transmitter.loss_source}`
              : "enter growth a year with a tree"
          }
        >
          {transmitter ? (
            <BigFigure value={transmitter.field_dbuvm} unit="dbuvm" />
          ) : (
            <span className="text-figure">open</span>
          )}
        </Answer>
      )}
      {preview && (
        <div className="flex-1 border-ok border-l border-dashed px-4" role="status">
          <div className="flex h-12 items-center gap-3">
            <Count clear={preview.clear} of={preview.targets.length} />
          </div>
          <div className="text-dense leading-dense">
            <div className="font-bold text-ok">with the remedy tried</div>
            <div className="text-muted">previewed, not taken</div>
          </div>
        </div>
      )}
    </AnswerStrip>
  );
}

function Count({ clear, of }: { clear: number; of: number }) {
  return (
    <span className="whitespace-nowrap">
      <Digits text={String(clear)} />
      <span className="mx-2 text-figure">of</span>
      <Digits text={String(of)} />
    </span>
  );
}

function Inputs({
  day,
  setDay,
  refused,
}: {
  day: string;
  setDay: (day: string) => void;
  refused?: string;
}) {
  const job = useJob("date", "site");
  const { sky } = useAnswers("sky");
  const { site: write } = useStationWrites();
  const site = job.site!;

  return (
    <>
      <h2 className="m-0 mb-1 font-bold text-body">Skyline from the mount</h2>
      <div className="grid grid-cols-[76px_1fr] gap-y-0.5">
        <span>Mount</span>
        <span>
          <NumberField
            label="Mount above ground"
            value={site.mount_height_m}
            unit="m"
            width={40}
            commit={(t) => write({ mount_height_m: t })}
          />{" "}
          above ground
        </span>
        <span>Sun on</span>
        <span>
          <TextField
            label="Day of the sun"
            value={day}
            width={92}
            commit={async (t) => {
              setDay(t.trim() || job.date);
              return null;
            }}
          />{" "}
          hours UTC
          {refused && (
            <span role="alert" className="block text-fail">
              {refused}
            </span>
          )}
        </span>
        <span>Trees as in</span>
        <span>
          <b className="num">{sky.until}</b>,{" "}
          <TextField
            label="Summers to look ahead"
            value={String(site.years_ahead)}
            width={26}
            number
            commit={(t) => write({ years_ahead: t })}
          />{" "}
          summers on
        </span>
        <span>Keep clear</span>
        <span>
          <NumberField
            label="Keep clear"
            value={site.keep_clear_deg ?? sky.keep_clear_deg}
            unit="deg"
            width={36}
            commit={(t) => write({ keep_clear_deg: t })}
          />{" "}
          round a satellite
        </span>
      </div>
    </>
  );
}
