import { useCallback, useState } from "react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { BigFigure, Digits } from "../../instruments/Figure";
import { StateWord } from "../../instruments/StateMark";
import { JobRegion } from "../../parts/JobRegion";
import { loaded } from "../../parts/loaded";
import { Problems } from "../../parts/Problems";
import { RefusalWords } from "../../parts/RefusalWords";
import type { Refusal } from "../../service/client";
import { useJobId, useSelected, useView, useWrites } from "../../service/job";
import { severity } from "../../units/severity";
import { useShown } from "../../units/showing";
import { CandidateBox } from "./CandidateBox";
import { CompanyLine } from "./CompanyLine";
import { Fixes } from "./Fixes";
import { Limits } from "./Limits";
import { Many } from "./Many";
import { Network } from "./Network";
import { NewerData } from "./NewerData";
import { PairCables } from "./PairCables";
import { Powering } from "./Powering";
import { School } from "./School";
import { Sheet } from "./Sheet";
import { Start } from "./Start";
import type { Mode } from "./useCandidates";
import { useStock } from "./useStock";

const DesignView = loaded(() => import("./design/DesignView"));
const MODES: Record<string, Mode> = {
  a: "after",
  b: "branch",
  r: "replace",
  c: "copy",
  m: "move",
};

export default function CoaxPlan() {
  const [designing, design] = useState(false);
  if (designing)
    return (
      <JobRegion name="Design">
        <DesignView leave={() => design(false)} />
      </JobRegion>
    );
  return <NetworkPlan onDesign={() => design(true)} />;
}

/** The part that the page is about: the selected one, else that of the worst outlet. */
function useHere(selected: string | null): string | null {
  return useView(({ answers: { coax } }) => {
    const [worst] = coax.outlets
      .filter((o) => o.part)
      .sort((a, b) => severity(a.state) - severity(b.state));
    const chosen = coax.parts.find((p) => p.id === selected);
    return chosen?.id ?? worst?.part ?? coax.parts[0]?.id ?? null;
  });
}

function NetworkPlan({ onDesign }: { onDesign: () => void }) {
  const { select, change } = useWrites();
  const selected = useSelected();
  const here = useHere(selected);
  const begun = useView((view) => view.answers.coax.parts.length > 0);
  const many = useView((view) => (view.job.links ?? []).length > 1);
  const catalogue = useStock();
  const [picking, pick] = useState<{ part: string; mode: Mode } | null>(null);
  const [refused, refuse] = useState<Refusal | null>(null);
  const [focus, setFocus] = useState<{ part: string } | null>(null);
  // After an add the new part has the focus, after a removal the one before it, else the one that was changed.
  const goTo = useCallback(
    (part: string) => {
      select(part);
      setFocus({ part });
    },
    [select],
  );
  const feedFrom = useCallback(
    async (part: string, after: string) =>
      refuse(await change({ verb: "lead", part, after, port: null })),
    [change],
  );
  const remove = useRemove(goTo, refuse);
  const act = useCallback(
    (key: string, part: string) => {
      const mode = MODES[key];
      select(part);
      if (mode) pick({ part, mode });
      else if (key === "Delete") void remove(part);
      else document.querySelector<HTMLInputElement>('[aria-label="Sheet"] input')?.focus();
    },
    [select, remove],
  );
  if (!catalogue) return null;
  return (
    <div className="flex min-h-full max-lg:flex-col">
      <div className="min-w-0 flex-1 px-6 py-3 max-md:px-4">
        <Headline />
        <Start onAdded={goTo} />
        {refused && (
          <p role="alert" className="m-0 mb-3 border-2 border-fail p-2 text-dense">
            <b>{refused.field}:</b> <RefusalWords it={refused} />
          </p>
        )}
        {begun && (
          <>
            <JobRegion name="Network">
              <Network
                catalogue={catalogue}
                selected={here}
                asked={selected}
                onKey={act}
                onFeed={feedFrom}
                focus={focus}
              />
            </JobRegion>
            <p className="m-0 mb-3 flex flex-wrap gap-x-6 text-dense text-muted">
              <span>
                wire: thin 6 mm, middle 7 mm, thick 10 mm coax; figures on it are metres or feet
              </span>
              <span>
                gauge: tick above is the lowest frequency, below the highest; figure: the least
                level
              </span>
            </p>
          </>
        )}
        <CoaxProblems onSelect={select} />
        {many && <Many catalogue={catalogue} />}
        {begun && <Files onDesign={onDesign} />}
        <JobRegion name="Pairs of cables">
          <PairCables />
        </JobRegion>
        {begun && (
          <JobRegion name="Powering">
            <Powering />
          </JobRegion>
        )}
        <NewerData />
        {begun && <Limits />}
        {begun && <School />}
        <JobRegion name="Company’s line">
          <CompanyLine />
        </JobRegion>
      </div>
      {here && (
        <aside
          aria-label="Sheet"
          className="w-[304px] shrink-0 border-line border-l bg-paper px-4 py-4 max-lg:w-full max-lg:border-t"
          onKeyDown={(e) => e.key === "Escape" && setFocus({ part: here })}
        >
          <JobRegion name="Sheet" key={here}>
            <Sheet part={here} catalogue={catalogue} act={act} />
          </JobRegion>
        </aside>
      )}
      {picking && (
        <CandidateBox
          {...picking}
          key={`${picking.part} ${picking.mode}`}
          onClose={() => {
            pick(null);
            setFocus({ part: picking.part });
          }}
          onRefused={refuse}
          onTaken={goTo}
        />
      )}
    </div>
  );
}

function Headline() {
  const { inside, wanted, lowest, lowest_place } = useView(({ answers: { coax } }) => ({
    inside: coax.inside,
    wanted: coax.wanted,
    lowest: coax.lowest,
    lowest_place: coax.lowest_place,
  }));
  return (
    <section aria-label="Answer" className="flex flex-wrap items-center gap-x-8 gap-y-2 pb-3">
      <div className="flex items-baseline gap-2">
        <Digits text={String(inside)} /> <span className="text-figure">of</span>{" "}
        <Digits text={String(wanted)} />
        <span className="ml-1 text-figure">outlets in</span>
      </div>
      {lowest_place && (
        <div>
          <div className="text-dense">
            {lowest.state === "fail" || lowest.value == null ? "Worst" : "Nearest to a limit"}:{" "}
            {lowest_place}
          </div>
          {lowest.value == null ? (
            <div className="text-figure">nothing arrives</div>
          ) : (
            <div className="flex items-center gap-3">
              <BracketGauge gauge={lowest} width={170} height={20} />
              <BigFigure value={lowest.value} unit="dbuv" size={22} tone={lowest.state} />
              <StateWord state={lowest.state} />
            </div>
          )}
        </div>
      )}
    </section>
  );
}

function CoaxProblems({ onSelect }: { onSelect: (part: string) => void }) {
  const problems = useView((view) => view.answers.coax.problems);
  return (
    <Problems
      rows={problems}
      onSelect={onSelect}
      ways={(p) => (p.fixable ? <Fixes problem={p} /> : null)}
    />
  );
}

function Files({ onDesign }: { onDesign: () => void }) {
  const id = useJobId();
  const at = useShown();
  return (
    <p className="m-0 mt-4 flex flex-wrap gap-2 text-dense">
      <button type="button" className="copper-button" onClick={onDesign}>
        Design this run
      </button>
      <a className="plain-button no-underline" href={`/api/jobs/${id}/levels.csv`}>
        Level plan, CSV
      </a>
      <a
        className="plain-button no-underline"
        href={`/api/jobs/${id}/run.pdf?units=${at.units}&level=${at.level}`}
      >
        Print of the run, PDF
      </a>
      <a className="plain-button no-underline" href={`/api/jobs/${id}/cables.csv`}>
        Register of cables, CSV
      </a>
    </p>
  );
}

/** Takes a part out; the one before it is looked at next. */
function useRemove(goTo: (part: string) => void, refuse: (refusal: Refusal | null) => void) {
  const { change, view } = useWrites();
  return useCallback(
    async (part: string) => {
      const places = view()?.answers.coax.layout.places ?? [];
      const before = places.find((p) => p.part === part)?.before;
      const refusal = await change({ verb: "remove", rows: "parts", id: part });
      refuse(refusal);
      const next = refusal ? part : (before ?? view()?.answers.coax.layout.places[0]?.part);
      if (next) goTo(next);
    },
    [change, view, goTo, refuse],
  );
}
