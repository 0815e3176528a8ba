import { Redo2, Search, Sun, Undo2 } from "lucide-react";
import { useMemo } from "react";
import { Link } from "wouter";
import { STATIONS, type StationKey } from "../parts/stations";
import { client } from "../service/client";
import { useJobId, useView, useWriteState, useWrites } from "../service/job";
import { sendAgain } from "../service/refusals";
import { changeSettings, useSettings } from "../service/settings";
import { useShown } from "../units/showing";

const LEVEL = { dbuv: "dBµV", dbmv: "dBmV", dbm: "dBm" } as const;

/** Switches of what this device shows. */
export function useSwitches() {
  const { north, units, level } = useShown();
  return useMemo(
    () => ({
      north: () => changeSettings({ north: north === "true" ? "compass" : "true" }),
      units: () => changeSettings({ units: units === "metric" ? "us" : "metric" }),
      level: () =>
        changeSettings({ level: level === "dbuv" ? "dbmv" : level === "dbmv" ? "dbm" : "dbuv" }),
      theme: () =>
        changeSettings({
          theme: document.documentElement.dataset.theme === "night" ? "day" : "night",
        }),
    }),
    [north, units, level],
  );
}

export function useHistory() {
  const { edit } = useWrites();
  const undo = useView((view) => view.undo);
  const redo = useView((view) => view.redo);
  return useMemo(
    () => ({
      undo: () => undo && edit((at) => client.POST("/api/jobs/{job_id}/undo", { params: at })),
      redo: () => redo && edit((at) => client.POST("/api/jobs/{job_id}/redo", { params: at })),
    }),
    [edit, undo, redo],
  );
}

/** 48 px: faces, the station's question, undo, redo, north, units, level, find, state of saving. */
export function Header({
  station,
  face,
  onFind,
}: {
  station: StationKey;
  face: "plan" | "do";
  onFind: () => void;
}) {
  const at = useShown();
  const sw = useSwitches();
  const sunny = useSettings((s) => s.theme === "sun");
  const base = `/jobs/${useJobId()}/${station}`;
  const question = STATIONS.find((s) => s.key === station)?.question;
  const tab = (on: boolean) =>
    `px-3.5 py-1 text-dense font-semibold no-underline max-md:px-4 max-md:py-2.5 max-md:text-lead ${on ? "bg-ink text-sheet" : ""}`;
  return (
    <header className="no-print flex min-h-12 flex-wrap items-center gap-x-4 gap-y-1 border-line border-b px-6 max-md:px-4 max-md:py-2">
      <div
        className="flex overflow-hidden rounded-sm border border-ink"
        role="group"
        aria-label="Face"
      >
        <Link
          to={base}
          aria-current={face === "plan" ? "true" : undefined}
          className={tab(face === "plan")}
        >
          Plan
        </Link>
        <Link
          to={`${base}/do`}
          aria-current={face === "do" ? "true" : undefined}
          className={tab(face === "do")}
        >
          Do
        </Link>
      </div>
      <p className="m-0 truncate max-md:hidden">{question}</p>
      <div className="ml-auto flex items-center gap-3.5 text-dense text-muted">
        <History />
        <Switch name="north" value={at.north === "true" ? "°T" : "°M"} onClick={sw.north} />
        <Switch name="units" value={at.units === "metric" ? "m" : "ft"} onClick={sw.units} />
        <Switch name="level" value={LEVEL[at.level]} onClick={sw.level} />
        <button
          type="button"
          aria-label="Find or run"
          onClick={onFind}
          className="grid h-8 w-7 place-items-center text-ink max-md:h-11 max-md:w-11"
        >
          <Search size={17} aria-hidden="true" />
        </button>
        {face === "do" && (
          <button
            type="button"
            aria-label="Highest contrast, for the sun"
            aria-pressed={sunny}
            onClick={() => changeSettings({ theme: sunny ? "system" : "sun" })}
            className={`grid h-8 w-8 place-items-center rounded-sm text-ink max-md:h-11 max-md:w-11 ${sunny ? "border-2 border-ink" : ""}`}
          >
            <Sun size={18} aria-hidden="true" />
          </button>
        )}
        <Saved />
      </div>
    </header>
  );
}

function History() {
  const undo = useView((view) => view.undo);
  const redo = useView((view) => view.redo);
  const history = useHistory();
  return (
    <>
      <HistoryButton name="Undo" what={undo} run={history.undo} icon={Undo2} />
      <HistoryButton name="Redo" what={redo} run={history.redo} icon={Redo2} />
    </>
  );
}

function HistoryButton({
  name,
  what,
  run,
  icon: Icon,
}: {
  name: string;
  /** The change that it concerns, as the history calls it. */
  what: string | null;
  run: () => unknown;
  icon: typeof Undo2;
}) {
  return (
    <button
      type="button"
      aria-label={what ? `${name} ${what}` : name}
      disabled={!what}
      onClick={run}
      className="grid h-8 w-7 place-items-center text-ink max-md:h-11 max-md:w-11"
    >
      <Icon size={17} aria-hidden="true" />
    </button>
  );
}

/** Whether what was typed is saved, and since when. */
function Saved() {
  const at = useView((view) => view.kept_at);
  const busy = useWriteState((s) => s.writing > 0);
  const unsaved = useWriteState((s) => s.refusal !== null && sendAgain(s.refusal));
  return (
    <span className="min-w-[76px] max-lg:hidden" aria-live="polite">
      {unsaved ? "not kept yet" : busy ? "keeping" : `kept ${at.slice(11, 16)}`}
    </span>
  );
}

function Switch({ name, value, onClick }: { name: string; value: string; onClick: () => void }) {
  return (
    <button
      type="button"
      onClick={onClick}
      className="h-8 whitespace-nowrap max-md:hidden"
      aria-label={`${name}: ${value}, switch`}
    >
      {name} <b className="num text-ink">{value}</b>
    </button>
  );
}
