import { type ReactNode, useEffect, useRef, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { BracketGauge } from "../instruments/BracketGauge";
import { StateWord, TEXT, WORD } from "../instruments/StateMark";
import type { Change, Problem } from "../service/client";
import { useWrites } from "../service/job";
import { useSettings } from "../service/settings";
import { Say, useShown } from "../units/showing";
import { shown } from "../units/units";
import { JobRegion } from "./JobRegion";

const nameOf = (p: Problem) => `${p.code} ${p.place}`;

/** The problems of a station; where they cannot be drawn the rest of it goes on. */
export function Problems(p: Props) {
  return (
    <JobRegion name="Problems">
      <ProblemList {...p} />
    </JobRegion>
  );
}

type Props = {
  rows: Problem[];
  onSelect?: (ref: string) => void;
  /** More that could be done about a problem, where there is more; asked for when it is opened. */
  ways?: (problem: Problem) => ReactNode;
};

/** Rows of problems: state, what and where, figure, limit and whose, what to do, button. */
function ProblemList({ rows, onSelect, ways }: Props) {
  const out = rows.filter((p) => p.state === "fail").length;
  const near = rows.filter((p) => p.state === "marginal").length;
  const [picked, pick] = useState(0);
  const [shown, show] = useState<string | null>(null);
  const [opened, open] = useState<string | null>(null);
  const { change: take } = useWrites();
  const keys = useSettings((now) => now.keys === "on");
  const list = useRef<HTMLUListElement>(null);
  // The fix of the problem with the focus, else of the one that was picked last.
  const at = (e: Event) => {
    const row = (e.target as Element).closest?.("[data-problem]");
    return rows[row ? Number(row.getAttribute("data-problem")) : picked] ?? rows[0];
  };
  useHotkeys(
    "f",
    (e) => {
      const problem = at(e);
      if (!problem?.change) return;
      if (shown === nameOf(problem)) void taken(problem.change, rows.indexOf(problem));
      else show(nameOf(problem));
    },
    {
      enabled: keys,
      // In the network the key folds; outside of a station letters are no keys.
      ignoreEventWhen: (e) =>
        !(e.target as Element).closest?.("[data-station]") ||
        Boolean((e.target as Element).closest?.("[data-network]")),
    },
    [rows, picked, shown, take],
  );
  const [took, setTook] = useState<{ row: number } | null>(null);
  const taken = async (change: Change, row: number) => {
    // A fix that was refused leaves the focus where it is.
    if (!(await take(change))) setTook({ row });
  };
  // The row of an accepted fix is removed: the row in its place gets the focus, or the heading if none is left.
  useEffect(() => {
    if (!took) return;
    const rest = [
      ...(list.current?.querySelectorAll<HTMLElement>("[data-problem] > button") ?? []),
    ];
    const next = rest[took.row] ?? rest.at(-1);
    (next ?? list.current?.parentElement?.querySelector("h2"))?.focus();
  }, [took]);
  return (
    <section aria-label="Problems">
      <h2 tabIndex={-1} className="m-0 border-line border-b pb-1.5 text-body outline-none">
        <b>Problems</b>{" "}
        <span className="text-dense text-muted">
          {rows.length ? `${out} ${WORD.fail}, ${near} ${WORD.marginal}` : "none found"}
        </span>
      </h2>
      <ul ref={list} className="m-0 list-none p-0">
        {rows.map((p, i) => (
          <Row
            key={`${p.code}${p.place}${i}`}
            problem={p}
            index={i}
            picked={i === picked}
            showing={p.change != null && shown === nameOf(p)}
            onShow={(on) => show(on ? nameOf(p) : null)}
            onPick={() => {
              pick(i);
              if (p.ref) onSelect?.(p.ref);
            }}
            onTake={(change) => taken(change, i)}
            ways={ways?.(p)}
            open={opened === nameOf(p)}
            onOpen={(on) => open(on ? nameOf(p) : null)}
          />
        ))}
      </ul>
    </section>
  );
}

function Row({
  problem: p,
  index,
  picked,
  showing,
  onShow,
  onPick,
  onTake,
  ways,
  open,
  onOpen,
}: {
  problem: Problem;
  index: number;
  picked: boolean;
  showing: boolean;
  onShow: (on: boolean) => void;
  onPick: () => void;
  onTake: (change: Change) => unknown;
  ways?: ReactNode;
  open: boolean;
  onOpen: (on: boolean) => void;
}) {
  const at = useShown();
  const figure =
    p.gauge?.value != null
      ? shown(p.gauge.value, p.gauge.unit, p.gauge.unit === "count" ? 0 : 1, at)
      : null;
  return (
    <li
      data-problem={index}
      className="grid grid-cols-[88px_minmax(150px,1.2fr)_auto_minmax(120px,1fr)_minmax(150px,1.3fr)_112px] items-center gap-x-4 gap-y-1 border-line border-b py-2 text-dense leading-dense max-xl:grid-cols-[88px_1fr_auto] max-md:grid-cols-1"
    >
      <StateWord state={p.state} />
      <button
        type="button"
        onClick={onPick}
        className={`border-l-[3px] pl-2 text-left ${picked ? "border-copper" : "border-transparent"}`}
      >
        <b className="block">
          <Say it={p.title} />
        </b>
        <span className="text-muted">{p.place}</span>
      </button>
      <span className="flex items-center gap-2">
        {p.gauge && <BracketGauge gauge={p.gauge} width={72} />}
        {figure && (
          <span className="whitespace-nowrap">
            <b className={`num ${TEXT[p.state]}`}>{figure.figure}</b>{" "}
            <span className="text-muted">{figure.unit}</span>
          </span>
        )}
      </span>
      <span>
        <Say it={p.limit} />
        <span className="block text-muted">{p.origin}</span>
      </span>
      <span>
        <Say it={p.remedy} />
        {p.effect && p.effect.length > 0 && (
          <span className="block text-muted">
            <Say it={p.effect} />
          </span>
        )}
      </span>
      <span className="flex flex-wrap justify-end gap-2 max-md:justify-start">
        {p.change && showing && (
          <>
            <button
              type="button"
              className="copper-button"
              onClick={() => p.change && onTake(p.change)}
            >
              Take it
            </button>
            <button type="button" className="plain-button" onClick={() => onShow(false)}>
              Leave it
            </button>
          </>
        )}
        {p.change && !showing && (
          <button
            type="button"
            className="plain-button"
            onClick={() => {
              onShow(true);
              onPick();
            }}
          >
            Show fix
          </button>
        )}
        {ways && !showing && (
          <button
            type="button"
            className="plain-button"
            aria-expanded={open}
            onClick={() => onOpen(!open)}
          >
            {open ? "Fewer" : p.change ? "Other ways" : "What cures it"}
          </button>
        )}
      </span>
      {open && ways && <div className="col-span-full">{ways}</div>}
      {showing && p.change && (
        <p role="status" className="col-span-full m-0 border-ok border-l-2 pl-3">
          It will do this: <Say it={p.remedy} />. <Say it={p.effect ?? []} />. Undo takes it back.
        </p>
      )}
    </li>
  );
}
