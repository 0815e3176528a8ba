import { useCallback, useEffect, useRef, useState } from "react";
import { useParams } from "wouter";
import { FocusKept } from "../parts/focus";
import { JobRegion } from "../parts/JobRegion";
import type { Loaded } from "../parts/loaded";
import { STATIONS, type StationKey } from "../parts/stations";
import type { AnswerKey } from "../service/client";
import { JobProvider, useJob, useReady, useView } from "../service/job";
import { useShowing } from "../service/settings";
import { ShowingProvider } from "../units/showing";
import { Finder, FinderBox } from "./Finder";
import { Header } from "./Header";
import { Keys, KeysHelp } from "./Keys";
import { NoJob } from "./NoJob";
import { Notes, RefusalBar } from "./RefusalBar";
import { Spine } from "./Spine";
import { Told } from "./Told";

/** The pages that are handed to the frame: a plan of each station, and the tasks of any. */
export type JobPages = {
  plans: Record<StationKey, Loaded<object>>;
  tasks: Loaded<{ station: StationKey }>;
};

/** The answers that each page shows. */
const NEEDS: Record<StationKey, readonly AnswerKey[]> = {
  site: ["site"],
  sky: ["sky", "aim"],
  aim: ["aim", "sky", "site"],
  mast: ["mast"],
  earth: ["earth"],
  coax: ["coax", "aim", "stock"],
  readings: ["readings", "coax"],
  handover: ["handover", "readings"],
};
const DO_NEEDS: readonly AnswerKey[] = ["steps"];
// The box and the list of keys are fetched when the page stands: what is first drawn does without them.
const LATER_MS = 1500;

export function JobPage(pages: JobPages) {
  const { jobId = "", station: named = "site", face: faced } = useParams();
  const station = (named in NEEDS ? named : "site") as StationKey;
  const face = faced === "do" ? "do" : "plan";
  const needs = face === "do" ? DO_NEEDS : NEEDS[station];
  return (
    <JobProvider
      id={jobId}
      needs={needs}
      onSite={face === "do"}
      key={jobId}
      failed={(refusal, again) => <NoJob id={jobId} refusal={refusal} again={again} />}
    >
      <Frame pages={pages} station={station} face={face} needs={needs} />
    </JobProvider>
  );
}

type FrameProps = {
  pages: JobPages;
  station: StationKey;
  face: "plan" | "do";
  needs: readonly AnswerKey[];
};

function Frame({ pages, station, face, needs }: FrameProps) {
  const own = useView(({ units, level }) => ({ units, level }));
  const [finding, find] = useState(false);
  const [helping, help] = useState(false);
  const onFind = useCallback(() => find(true), []);
  const onHelp = useCallback(() => help(true), []);
  useEffect(() => {
    const later = window.setTimeout(
      () => void Promise.all([FinderBox.load(), KeysHelp.load()]),
      LATER_MS,
    );
    return () => window.clearTimeout(later);
  }, []);
  const showing = useShowing(own);
  const wide = face === "plan" && Boolean(STATIONS.find((s) => s.key === station)?.wide);
  return (
    <ShowingProvider value={showing}>
      <div className="flex min-h-screen">
        <JobRegion name="Signal path">
          <Spine current={station} face={face} folded={wide} />
        </JobRegion>
        <div
          data-station={station}
          tabIndex={-1}
          className="flex min-w-0 flex-1 flex-col outline-none"
        >
          <JobRegion name="Header">
            <Header station={station} face={face} onFind={onFind} />
          </JobRegion>
          <Told />
          <RefusalBar />
          <Notes />
          <Station pages={pages} station={station} face={face} needs={needs} />
        </div>
      </div>
      <Keys onFind={onFind} onKeys={onHelp} off={finding || helping} />
      {finding && (
        <JobRegion name="Find or run">
          <Finder onClose={() => find(false)} onKeys={onHelp} />
        </JobRegion>
      )}
      {helping && (
        <JobRegion name="Keys">
          <KeysHelp open onClose={() => help(false)} />
        </JobRegion>
      )}
    </ShowingProvider>
  );
}

/** The page of a station. It has the focus when it is opened, so that its keys act at once. */
function Station({ pages, station, face, needs }: FrameProps) {
  const { name } = useJob("name");
  const ready = useReady(needs);
  const info = STATIONS.find((s) => s.key === station)!;
  const main = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each page that is opened takes the focus
  useEffect(() => {
    // In the frame that draws it: setting the focus forces a layout, and this way there is only one.
    const frame = requestAnimationFrame(() => {
      // A link or tab that was used to come here keeps the focus.
      const at = document.activeElement;
      if (!at || at === document.body) main.current?.focus({ preventScroll: true });
    });
    return () => cancelAnimationFrame(frame);
  }, [station, face]);
  const Plan = pages.plans[station];
  const Tasks = pages.tasks;
  // Its code is fetched beside its answers.
  useEffect(() => void (face === "do" ? Tasks : Plan).load().catch(() => {}), [face, Plan, Tasks]);
  return (
    <main ref={main} tabIndex={-1} className="min-w-0 flex-1 outline-none">
      <FocusKept station={main} />
      <h1 className="sr-only">
        {info.name}, {name}
      </h1>
      <JobRegion name={info.name} key={`${station} ${face}`}>
        {!ready ? null : face === "do" ? <Tasks station={station} /> : <Plan />}
      </JobRegion>
    </main>
  );
}
