import { lazy, Suspense, useState } from "react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { BigFigure, Digits } from "../../instruments/Figure";
import { StateWord } from "../../instruments/StateMark";
import { RefusalWords } from "../../parts/RefusalWords";
import type { Refusal } from "../../service/client";
import { useJob } from "../../service/job";
import { useRows } from "../../service/rows";
import { type Command, CommandBox } from "../../shell/CommandBox";
import { Problems } from "../../shell/Problems";
import { useShown } from "../../units/showing";
import { CompanyLine } from "./CompanyLine";
import { Cures } from "./Cures";
import { Limits } from "./Limits";
import { Many } from "./Many";
import { NewerData } from "./NewerData";
import { PairCables } from "./PairCables";
import { Powering } from "./Powering";
import { Run } from "./Run";
import { School } from "./School";
import { Sheet } from "./Sheet";
import { Start } from "./Start";
import { usePicks } from "./usePicks";
import { useStock } from "./useStock";

const DesignView = lazy(() => import("./design/DesignView"));

export default function CoaxPlan() {
  const { view, selected, select, change } = useJob();
  const parts = useRows("parts");
  const at = useShown();
  const catalogue = useStock();
  const [picking, pick] = useState<keyof typeof TITLES | null>(null);
  const [refused, refuse] = useState<Refusal | null>(null);
  const coax = view.answers.coax;
  const worst = [...coax.outlets]
    .filter((o) => o.part)
    .sort((a, b) => rank(a.state) - rank(b.state))[0];
  const here =
    coax.parts.find((p) => p.id === selected)?.id ?? worst?.part ?? coax.parts[0]?.id ?? null;
  const picks = usePicks(catalogue, here, picking, refuse);
  const [designing, design] = useState(false);
  if (!catalogue) return null;
  if (designing)
    return (
      <Suspense>
        <DesignView leave={() => design(false)} />
      </Suspense>
    );
  const remove = () => {
    const before = (view.job.links ?? []).find((k) => k.to_part === here)?.from_part ?? null;
    parts.remove(here ?? "");
    select(before);
  };
  const key = (k: string) => {
    if (k === "a") pick("after");
    if (k === "b") pick("branch");
    if (k === "r") pick("replace");
    if (k === "c") pick("copy");
    if (k === "m") pick("move");
    if (k === "Delete") remove();
    if (k === "Enter")
      document.querySelector<HTMLInputElement>('[aria-label="Sheet"] input')?.focus();
  };
  const act = (name: string, hint: string, run: () => void) => (
    <button type="button" className="plain-button px-2! py-1! text-dense" onClick={run}>
      {name} <span className="num text-quiet">{hint}</span>
    </button>
  );
  return (
    <div className="flex min-h-full max-lg:flex-col">
      <div className="min-w-0 flex-1 px-6 py-3 max-md:px-4">
        <section aria-label="Answer" className="flex flex-wrap items-center gap-x-8 gap-y-2 pb-3">
          <div className="flex items-baseline gap-2">
            <Digits text={String(coax.inside)} /> <span className="text-figure">of</span>{" "}
            <Digits text={String(coax.wanted)} />
            <span className="ml-1 text-figure">outlets in</span>
          </div>
          {coax.lowest_place && (
            <div>
              <div className="text-dense">
                {coax.lowest.state === "out" || coax.lowest.value == null
                  ? "Worst"
                  : "Nearest to a limit"}
                : {coax.lowest_place}
              </div>
              {coax.lowest.value == null ? (
                <div className="text-figure">nothing arrives</div>
              ) : (
                <div className="flex items-center gap-3">
                  <BracketGauge gauge={coax.lowest} width={170} height={20} />
                  <BigFigure
                    value={coax.lowest.value}
                    unit="dbuv"
                    size={22}
                    tone={coax.lowest.state}
                  />
                  <StateWord state={coax.lowest.state} />
                </div>
              )}
            </div>
          )}
        </section>
        <Start />
        {refused && (
          <p role="alert" className="m-0 mb-3 border-2 border-brick p-2 text-dense">
            <b>{refused.field}:</b> <RefusalWords it={refused} />
          </p>
        )}
        {coax.parts.length > 0 && (
          <Run
            catalogue={catalogue}
            selected={here}
            asked={selected ?? null}
            onSelect={select}
            onKey={key}
            onLead={async (part, after) =>
              refuse(await change({ verb: "lead", part, after, port: null }))
            }
          />
        )}
        {coax.parts.length > 0 && (
          <p className="m-0 mb-3 flex flex-wrap gap-x-6 text-dense text-quiet">
            <span>
              wire: thin 6 mm, middle 7 mm, thick 10 mm coax; figures on it are metres or feet
            </span>
            <span>
              gauge: tick above is the lowest frequency, below the highest; figure: the least level
            </span>
          </p>
        )}
        <Problems
          rows={coax.problems}
          onSelect={(ref) => select(ref)}
          ways={(p) => (p.curable ? <Cures problem={p} /> : null)}
        />
        {(view.job.links ?? []).length > 1 && <Many catalogue={catalogue} />}
        {coax.parts.length > 0 && (
          <p className="m-0 mt-4 flex flex-wrap gap-2 text-dense">
            <button type="button" className="copper-button" onClick={() => design(true)}>
              Design this run
            </button>
            <a className="plain-button no-underline" href={`/api/jobs/${view.id}/levels.csv`}>
              Level plan, CSV
            </a>
            <a
              className="plain-button no-underline"
              href={`/api/jobs/${view.id}/run.pdf?units=${at.units}&level=${at.level}`}
            >
              Print of the run, PDF
            </a>
            <a className="plain-button no-underline" href={`/api/jobs/${view.id}/cables.csv`}>
              Register of cables, CSV
            </a>
          </p>
        )}
        <PairCables />
        {coax.parts.length > 0 && <Powering />}
        <NewerData />
        {coax.parts.length > 0 && <Limits />}
        {coax.parts.length > 0 && <School />}
        <CompanyLine />
      </div>
      {here && (
        <aside
          aria-label="Sheet"
          className="w-[304px] shrink-0 border-line border-l bg-paper px-4 py-4 max-lg:w-full max-lg:border-t"
        >
          <Sheet
            part={here}
            catalogue={catalogue}
            actions={
              <div className="flex flex-wrap gap-1.5">
                {act("Add after", "a", () => pick("after"))}
                {act("Branch", "b", () => pick("branch"))}
                {act("Replace", "r", () => pick("replace"))}
                {act("Copy branch", "c", () => pick("copy"))}
                {act("Lead from", "m", () => pick("move"))}
                {act("Remove", "Del", remove)}
              </div>
            }
          />
        </aside>
      )}
      <CommandBox
        title={TITLES[picking ?? "after"]}
        commands={picks as Command[]}
        open={picking !== null}
        onClose={() => pick(null)}
      />
    </div>
  );
}

const TITLES = {
  after: "Add after it: a part, an outlet, or join to another",
  branch: "Branch on a free output: a part or an outlet",
  replace: "Replace by",
  copy: "Put the whole branch once more: at a free output",
  move: "Lead it and what hangs behind it from: a free output",
};

function rank(state: string) {
  return { out: 0, near: 1, todo: 2, in: 3 }[state] ?? 4;
}
