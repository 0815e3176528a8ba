import { List } from "lucide-react";
import { memo } from "react";
import { Link } from "wouter";
import { StateMark, TEXT, WORD } from "../instruments/StateMark";
import { solidTo } from "../parts/stations";
import type { StationLine } from "../service/client";
import { useAnswers, useJob, useJobId } from "../service/job";
import { useShown } from "../units/showing";

const TOP = 104;
const EACH = 68;

/** The copper wire with its eight stations; folded it shows the marks alone. */
export function Spine({
  current,
  face,
  folded,
}: {
  current: string;
  face: string;
  folded: boolean;
}) {
  const id = useJobId();
  const { name, place } = useJob("name", "place");
  const { stations } = useAnswers("stations");
  const solid = solidTo(stations);
  const ends = TOP + EACH / 2 + EACH * 7;
  const solidEnd = solid >= 8 ? ends : TOP + EACH / 2 + EACH * solid;
  const x = folded ? 22 : 28;
  return (
    <nav
      aria-label="Stations"
      className={`no-print relative flex min-h-screen shrink-0 flex-col border-line border-r bg-paper ${folded ? "w-11" : "w-[209px] max-md:w-11"}`}
    >
      <svg
        aria-hidden="true"
        className="pointer-events-none absolute top-0 left-0 z-10"
        width="56"
        height={ends + 20}
      >
        <line
          x1={x}
          x2={x}
          y1="0"
          y2={solidEnd}
          stroke="var(--color-copper)"
          strokeWidth="3"
          className={folded ? "" : "max-md:-translate-x-1.5"}
        />
        <line
          x1={x}
          x2={x}
          y1={solidEnd}
          y2={ends}
          stroke="var(--color-copper)"
          strokeWidth="3"
          strokeDasharray="7 6"
          className={folded ? "" : "max-md:-translate-x-1.5"}
        />
      </svg>
      <div className={folded ? "hidden" : "absolute top-3 left-14 max-md:hidden"}>
        <div className="font-bold text-lead">Evtro</div>
        <div className="mt-2 max-w-[146px] truncate font-semibold">{name}</div>
        <div className="max-w-[146px] truncate text-dense text-muted">{place}</div>
      </div>
      <ol className="relative z-20 m-0 list-none p-0" style={{ paddingTop: TOP }}>
        {stations.map((s) => (
          <Station
            key={s.key}
            id={id}
            line={s}
            here={s.key === current}
            face={face}
            folded={folded}
          />
        ))}
      </ol>
      <Link
        to="/"
        aria-label="Jobs"
        className={`mt-auto grid h-12 w-11 place-items-center ${folded ? "" : "md:hidden"}`}
      >
        <List size={20} aria-hidden="true" />
      </Link>
      <div
        className={`${folded ? "" : "md:mt-auto"} px-4 pt-6 pb-4 text-dense ${folded ? "hidden" : "pl-14 max-md:hidden"}`}
      >
        <div className="grid grid-cols-2 gap-2">
          <Link to="/">Jobs</Link>
          <Link to="/parts">Parts</Link>
          <Link to="/settings">Settings</Link>
        </div>
      </div>
    </nav>
  );
}

const Station = memo(function Station({
  id,
  line,
  here,
  face,
  folded,
}: {
  id: string;
  line: StationLine;
  here: boolean;
  face: string;
  folded: boolean;
}) {
  const at = useShown();
  const figure = at.north === "compass" && line.figure_compass ? line.figure_compass : line.figure;
  return (
    <li>
      <Link
        to={`/jobs/${id}/${line.key}${face === "do" ? "/do" : ""}`}
        aria-current={here ? "page" : undefined}
        className={`relative block h-[68px] no-underline ${here ? "-mr-px border-line border-y bg-sheet" : ""}`}
      >
        <span
          className={`absolute top-6 grid h-5 w-5 place-items-center ${here ? "bg-sheet" : "bg-paper"} ${folded ? "left-3" : "left-[18px] max-md:left-3"}`}
          style={{ boxShadow: `0 0 0 3px ${here ? "var(--color-sheet)" : "var(--color-paper)"}` }}
        >
          <StateMark state={line.state} />
        </span>
        {here && (
          <span
            className={`absolute top-[33px] h-[3px] w-3 bg-copper ${folded ? "left-8" : "left-[39px] max-md:left-8"}`}
          />
        )}
        <span className={folded ? "sr-only" : "absolute top-3 right-3 left-14 max-md:sr-only"}>
          <span className="flex items-baseline gap-1.5">
            <span className="num text-dense text-muted">{line.number}</span>
            <span className="font-semibold">{line.name}</span>
            <span className={`ml-auto text-dense ${TEXT[line.state]}`}>{WORD[line.state]}</span>
          </span>
          <span className={`num block truncate text-dense ${here ? "" : "text-muted"}`}>
            {figure}
          </span>
        </span>
      </Link>
    </li>
  );
});
