import { lazy, Suspense, useEffect, useMemo, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useNavigate, useParams } from "react-router";
import { KeptAgain, TypingBegins } from "../parts/kept";
import { RefusalWords } from "../parts/RefusalWords";
import type { AnswerKey } from "../service/client";
import { JobProvider, useJob } from "../service/job";
import { toldAbove } from "../service/refusals";
import { ShowingProvider } from "../units/showing";
import type { Command } from "./CommandBox";
import { Header, useHistory, useSwitches } from "./Header";
import { NoJob } from "./NoJob";
import { Spine } from "./Spine";
import { useShowing } from "./settings";
import { STATIONS, type StationKey } from "./stations";
import { Told } from "./Told";

const PLANS = {
  site: lazy(() => import("../stations/site/Plan")),
  sky: lazy(() => import("../stations/sky/Plan")),
  aim: lazy(() => import("../stations/aim/Plan")),
  mast: lazy(() => import("../stations/mast/Plan")),
  earth: lazy(() => import("../stations/earth/Plan")),
  coax: lazy(() => import("../stations/coax/Plan")),
  readings: lazy(() => import("../stations/readings/Plan")),
  handover: lazy(() => import("../stations/handover/Plan")),
};
// The box and the keys are fetched when the page stands: what is first drawn does without them.
const box = () => import("./CommandBox");
const keysHelp = () => import("./KeysHelp");
const CommandBox = lazy(() => box().then((m) => ({ default: m.CommandBox })));
const KeysHelp = lazy(() => keysHelp().then((m) => ({ default: m.KeysHelp })));
const LATER_MS = 1500;
const DoFace = lazy(() => import("../do/DoFace"));

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

export function JobPage() {
  const { jobId = "", station: named = "site", face: faced } = useParams();
  const station = (named in PLANS ? named : "site") as StationKey;
  const face = faced === "do" ? "do" : "plan";
  return (
    <JobProvider
      id={jobId}
      needs={face === "do" ? DO_NEEDS : NEEDS[station]}
      onSite={face === "do"}
      key={jobId}
      failed={(refusal, again) => <NoJob id={jobId} refusal={refusal} again={again} />}
    >
      <Frame station={station} face={face} />
    </JobProvider>
  );
}

function Frame({ station, face }: { station: StationKey; face: "plan" | "do" }) {
  const { view, ready, refusal, dismiss, again, kept, begins } = useJob();
  const [finding, find] = useState(false);
  const [keys, showKeys] = useState(false);
  useEffect(() => {
    const later = window.setTimeout(() => void Promise.all([box(), keysHelp()]), LATER_MS);
    return () => window.clearTimeout(later);
  }, []);
  const showing = useShowing(view.job.profile);
  const info = STATIONS.find((s) => s.key === station)!;
  const Plan = PLANS[station];
  return (
    <ShowingProvider value={showing}>
      <KeptAgain value={kept}>
        <TypingBegins value={begins}>
          <div className="flex min-h-screen">
            <Spine
              id={view.id}
              name={view.job.name}
              place={view.job.place ?? ""}
              stations={view.answers.stations}
              current={station}
              face={face}
              folded={Boolean(info.wide) && face === "plan"}
            />
            <div className="flex min-w-0 flex-1 flex-col">
              <Header
                station={station}
                question={info.question}
                face={face}
                onFind={() => find(true)}
              />
              <Told />
              {refusal && toldAbove(refusal) && (
                <div
                  role="alert"
                  className="flex flex-wrap items-center gap-x-4 gap-y-1 border-brick border-b-2 px-6 py-2"
                >
                  <span>
                    <b>{refusal.field || `Not kept. ${refusal.title}`}:</b>{" "}
                    <RefusalWords it={refusal} />
                  </span>
                  <span className="ml-auto flex gap-3">
                    {again && (
                      <button type="button" className="copper-button h-8" onClick={again}>
                        {refusal.status === 409 ? "Send mine again" : "Try again"}
                      </button>
                    )}
                    <button type="button" className="plain-button" onClick={dismiss}>
                      Leave it
                    </button>
                  </span>
                </div>
              )}
              {view.told.length > 0 && (
                <p
                  role="status"
                  className="m-0 border-line border-b bg-paper px-6 py-1.5 text-dense"
                >
                  <b>Read so:</b> {view.told.join(" ")}
                </p>
              )}
              <main className="min-w-0 flex-1">
                <h1 className="sr-only">
                  {info.name}, {view.job.name}
                </h1>
                <Suspense fallback={null}>
                  {!ready ? null : face === "do" ? <DoFace station={station} /> : <Plan />}
                </Suspense>
              </main>
            </div>
          </div>
          <Keys onFind={() => find(true)} onKeys={() => showKeys(true)} />
          <Finder open={finding} onClose={() => find(false)} onKeys={() => showKeys(true)} />
          {keys && (
            <Suspense fallback={null}>
              <KeysHelp open onClose={() => showKeys(false)} />
            </Suspense>
          )}
        </TypingBegins>
      </KeptAgain>
    </ShowingProvider>
  );
}

function Keys({ onFind, onKeys }: { onFind: () => void; onKeys: () => void }) {
  const { view } = useJob();
  const go = useNavigate();
  const sw = useSwitches();
  const history = useHistory();
  // The address and not what was drawn last: a station's page may still be on its way.
  const here = () => {
    const [, , , key, on] = window.location.pathname.split("/");
    return { key, doing: on === "do" };
  };
  useHotkeys(
    "1,2,3,4,5,6,7,8",
    (_, h) => {
      const n = Number(h.keys?.join("") ?? h.hotkey);
      const there = STATIONS[n - 1];
      if (there) go(`/jobs/${view.id}/${there.key}${here().doing ? "/do" : ""}`);
    },
    [view.id],
  );
  useHotkeys("p", () => void go(`/jobs/${view.id}/${here().key}${here().doing ? "" : "/do"}`), [
    view.id,
  ]);
  useHotkeys("n", sw.north, [sw]);
  useHotkeys("u", sw.units, [sw]);
  useHotkeys("l", sw.level, [sw]);
  useHotkeys("d", sw.theme, [sw]);
  useHotkeys("ctrl+z, meta+z", () => void history.undo(), { preventDefault: true }, [history]);
  useHotkeys("ctrl+shift+z, meta+shift+z", () => void history.redo(), { preventDefault: true }, [
    history,
  ]);
  useHotkeys("/", onFind, { preventDefault: true, useKey: true }, [onFind]);
  useHotkeys("?", onKeys, { useKey: true, preventDefault: true }, [onKeys]);
  return null;
}

function Finder({
  open,
  onClose,
  onKeys,
}: {
  open: boolean;
  onClose: () => void;
  onKeys: () => void;
}) {
  const { view, select, alsoShow } = useJob();
  const go = useNavigate();
  const sw = useSwitches();
  const history = useHistory();
  // The parts' names come from the run, which other pages do without.
  useEffect(() => alsoShow(open ? ["coax"] : []), [open, alsoShow]);
  const commands = useMemo<Command[]>(() => {
    const to = (path: string) => () => void go(path);
    const part = (id: string) => () => {
      select(id);
      go(`/jobs/${view.id}/coax`);
    };
    return [
      ...STATIONS.map((s, i) => ({
        name: s.name,
        hint: String(i + 1),
        run: to(`/jobs/${view.id}/${s.key}`),
      })),
      ...STATIONS.map((s) => ({
        name: `Do: ${s.name}`,
        hint: "p",
        run: to(`/jobs/${view.id}/${s.key}/do`),
      })),
      ...(view.answers.coax?.parts ?? []).map((p) => ({
        name: `Run: ${p.name}`,
        hint: p.type_name,
        run: part(p.id),
      })),
      ...(view.job.targets ?? []).map((t) => ({
        name: `Target: ${t.name}`,
        run: to(`/jobs/${view.id}/sky`),
      })),
      { name: "Undo", hint: "Ctrl+Z", run: () => void history.undo() },
      { name: "Redo", hint: "Ctrl+Shift+Z", run: () => void history.redo() },
      { name: "Switch true or compass north", hint: "n", run: sw.north },
      { name: "Switch metric or US units", hint: "u", run: sw.units },
      { name: "Switch level unit", hint: "l", run: sw.level },
      { name: "Switch day or night", hint: "d", run: sw.theme },
      { name: "All keys", hint: "?", run: onKeys },
      { name: "Jobs", run: to("/") },
      { name: "Day", run: to("/day") },
      { name: "Parts", run: to("/parts") },
      { name: "Settings", run: to("/settings") },
      {
        name: "Export this job as a file",
        run: () => void window.open(`/api/jobs/${view.id}/export`),
      },
      { name: "Job sheet as PDF", run: () => void window.open(`/api/jobs/${view.id}/sheet.pdf`) },
    ];
  }, [view, go, sw, history, select, onKeys]);
  if (!open) return null;
  return (
    <Suspense fallback={null}>
      <CommandBox title="Find or run" commands={commands} open onClose={onClose} />
    </Suspense>
  );
}
