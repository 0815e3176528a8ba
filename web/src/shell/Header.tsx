import { Redo2, Search, Sun, Undo2 } from "lucide-react";
import { Link } from "react-router";
import { client } from "../service/client";
import { useJob } from "../service/job";
import { sendAgain } from "../service/refusals";
import { useShown } from "../units/showing";
import { useSettings } from "./settings";
import type { StationKey } from "./stations";

const LEVEL = { dbuv: "dBµV", dbmv: "dBmV", dbm: "dBm" } as const;

export function useSwitches() {
  const { settings, change } = useSettings();
  const at = useShown();
  return {
    north: () => change({ north: at.north === "true" ? "compass" : "true" }),
    units: () => change({ units: at.units === "metric" ? "us" : "metric" }),
    level: () =>
      change({ level: at.level === "dbuv" ? "dbmv" : at.level === "dbmv" ? "dbm" : "dbuv" }),
    theme: () =>
      change({ theme: document.documentElement.dataset.theme === "night" ? "day" : "night" }),
    sun: () => change({ theme: settings.theme === "sun" ? "system" : "sun" }),
    settings,
  };
}

export function useHistory() {
  const { view, edit } = useJob();
  return {
    undo: () => view.undo && edit((at) => client.POST("/api/jobs/{job_id}/undo", { params: at })),
    redo: () => view.redo && edit((at) => client.POST("/api/jobs/{job_id}/redo", { params: at })),
  };
}

/** 48 px: faces, the station's question, undo, redo, north, units, level, find, kept state. */
export function Header({
  station,
  question,
  face,
  onFind,
}: {
  station: StationKey;
  question: string;
  face: "plan" | "do";
  onFind: () => void;
}) {
  const { view, busy, refusal } = useJob();
  const at = useShown();
  const sw = useSwitches();
  const history = useHistory();
  const base = `/jobs/${view.id}/${station}`;
  const tab = (on: boolean) =>
    `px-3.5 py-1 text-dense font-semibold no-underline max-md:px-4 max-md:py-2.5 max-md:text-lead ${on ? "bg-ink text-sheet" : ""}`;
  const kept = view.kept_at.slice(11, 16);
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
      <div className="ml-auto flex items-center gap-3.5 text-dense text-quiet">
        <button
          type="button"
          aria-label={view.undo ? `Undo ${view.undo}` : "Undo"}
          disabled={!view.undo}
          onClick={history.undo}
          className="grid h-8 w-7 place-items-center text-ink max-md:h-11 max-md:w-11"
        >
          <Undo2 size={17} aria-hidden="true" />
        </button>
        <button
          type="button"
          aria-label={view.redo ? `Redo ${view.redo}` : "Redo"}
          disabled={!view.redo}
          onClick={history.redo}
          className="grid h-8 w-7 place-items-center text-ink max-md:h-11 max-md:w-11"
        >
          <Redo2 size={17} aria-hidden="true" />
        </button>
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
            aria-pressed={sw.settings.theme === "sun"}
            onClick={sw.sun}
            className={`grid h-8 w-8 place-items-center rounded-sm text-ink max-md:h-11 max-md:w-11 ${sw.settings.theme === "sun" ? "border-2 border-ink" : ""}`}
          >
            <Sun size={18} aria-hidden="true" />
          </button>
        )}
        <span className="min-w-[76px] max-lg:hidden" aria-live="polite">
          {refusal && sendAgain(refusal) ? "not kept yet" : busy ? "keeping" : `kept ${kept}`}
        </span>
      </div>
    </header>
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
