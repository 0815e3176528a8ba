import { useState } from "react";
import { CostCurve } from "../../../instruments/CostCurve";
import { PictureRegion } from "../../../parts/PictureRegion";
import { RefusalWords } from "../../../parts/RefusalWords";
import { Choice, NumberField } from "../../../parts/Value";
import type { Design, PlanView, Wish } from "../../../service/client";
import { useJob } from "../../../service/job";
import { Say } from "../../../units/showing";
import { figureOf } from "../../../units/units";
import { Routes } from "./Routes";
import { SideBySide } from "./SideBySide";
import { SmallRun } from "./SmallRun";
import { useDesign } from "./useDesign";
import { Why } from "./Why";

const AIMS = [
  ["cost", "least cost"],
  ["margin", "most reserve"],
  ["parts", "fewest parts"],
] as const;
const TREES = [
  ["star", "a cable to each outlet"],
  ["riser", "taps along risers"],
  ["loop", "plates in a loop"],
  ["switch", "multiswitches"],
] as const;

/** The designer: a wish in a sentence, the curve of cost against reserve, two plans side by side. */
export default function DesignView({ leave }: { leave: () => void }) {
  const job = useJob("outlets");
  const at = useDesign();
  const { wish, state, working } = at;
  const floors = new Set((job.outlets ?? []).map((o) => o.floor)).size;
  const design = state.data?.design ?? null;
  // Two plans are picked of one design; another design begins with its own choice.
  const [chosen, choose] = useState<{ of: typeof design; a: number | null; b: number | null }>();
  const picked = chosen && chosen.of === design ? chosen : firstPick(design);
  const setPicked = (next: { a: number | null; b: number | null }) =>
    choose({ of: design, ...next });
  const a = design && picked.a != null ? design.plans[picked.a] : undefined;
  const b = design && picked.b != null ? (design.plans[picked.b] ?? null) : null;
  return (
    <div className="flex min-h-full max-lg:flex-col">
      <div className="min-w-0 flex-1 px-6 py-3 max-md:px-4">
        <div className="flex flex-wrap items-baseline gap-x-4">
          <h2 className="m-0 font-bold text-head">Design</h2>
          <span className="text-muted">
            {wish?.routes?.length ?? 0} outlets on {floors} floor{floors === 1 ? "" : "s"}, from
            what is at hand
          </span>
          <button
            type="button"
            className="plain-button ml-auto px-2! py-1! text-dense"
            onClick={leave}
          >
            Back to the run
          </button>
        </div>
        {wish && (
          <div className="flex items-end justify-between gap-3 border-line border-b py-3 max-md:flex-wrap">
            <Sentence wish={wish} at={at} />
            {working ? (
              <button type="button" className="plain-button" onClick={at.stop}>
                Stop
              </button>
            ) : (
              <button type="button" className="copper-button" onClick={at.begin}>
                Design
              </button>
            )}
          </div>
        )}
        {wish && <Routes wish={wish} read={at.read} />}
        {at.refused && (
          <p role="alert" className="m-0 my-3 border-2 border-fail p-2 text-dense">
            <b>{at.refused.field}:</b> <RefusalWords it={at.refused} />
          </p>
        )}
        {working && (
          <p role="status" className="m-0 py-3">
            Searching, <span className="num">{figureOf(state.data?.seconds ?? 0, 0)}</span> s
            {state.data?.best != null && `; best so far ${figureOf(state.data.best, 1)}`}
            {state.data?.bound != null && `, none can beat ${figureOf(state.data.bound, 1)}`}
          </p>
        )}
        {design?.already && !working && (
          <p role="status" className="m-0 border-line border-b py-3">
            The run as it is keeps this already: nothing has to be bought. The plans below are what
            else would do.
          </p>
        )}
        {design && !working && <Ahead design={design} />}
        {design && a && !working && (
          <>
            <div className="grid grid-cols-2 gap-8 border-line border-b py-3 max-md:grid-cols-1">
              <section aria-label="Cost against reserve">
                <h3 className="m-0 flex justify-between text-dense font-bold">
                  What reserve costs
                  <span className="font-normal text-muted">each point a plan that was proven</span>
                </h3>
                <PictureRegion name="Cost curve">
                  <CostCurve
                    points={design.plans.map((p) => ({ cost: p.cost, reserve: p.reserve_db ?? 0 }))}
                    today={design.as_it_is.reserve_db ?? null}
                    wanted={design.wish.reserve_db ?? 0}
                    picked={picked}
                    onPick={(n) =>
                      setPicked(
                        n === picked.a
                          ? { a: picked.b ?? picked.a, b: picked.b == null ? null : n }
                          : { ...picked, b: n === picked.b ? null : n },
                      )
                    }
                    unit={design.priced ? "as priced" : "points"}
                  />
                </PictureRegion>
              </section>
              <SideBySide design={design} a={a} b={b} />
            </div>
            <div className="grid grid-cols-2 gap-8 py-3 max-md:grid-cols-1">
              {[a, ...(b ? [b] : [])].map((plan, i) => (
                <section key={i} aria-label={`Plan ${"AB"[i]}`}>
                  <p className="m-0 pb-1 text-dense">
                    <b className={i === 0 ? "text-copper" : ""}>{"AB"[i]}</b> {plan.words}
                    {news(plan)}
                  </p>
                  <SmallRun plan={plan} />
                </section>
              ))}
            </div>
          </>
        )}
      </div>
      {design && a && !working && (
        <aside
          aria-label="Sheet"
          className="w-[304px] shrink-0 border-line border-l bg-paper px-4 py-4 max-lg:w-full max-lg:border-t"
        >
          <Why
            design={design}
            a={a}
            b={b}
            take={(which) => at.take((which === "a" ? picked.a : picked.b) ?? 0)}
          />
        </aside>
      )}
    </div>
  );
}

/** What is new in a plan, the dearest first. */
function news(plan: PlanView) {
  const said = plan.buy.slice(0, 3).map((b) => (b.count ? `${b.count} ${b.name}` : b.name));
  return said.length ? `: ${said.join("; ")}${plan.buy.length > 3 ? " and more" : ""}` : "";
}

/** What is kept and what is aimed for, as a sentence that can be edited. */
function Sentence({ wish, at }: { wish: Wish; at: ReturnType<typeof useDesign> }) {
  const trees = wish.trees ?? [];
  return (
    <div className="flex flex-col gap-2 text-dense">
      <p className="m-0 flex flex-wrap items-baseline gap-x-3">
        <span>
          <span className="text-muted">Kept</span> everything up to the first branch, plates and
          drops where they fit
        </span>
        <span className="text-muted">aim for</span>
        <Choice
          label="Aim"
          value={wish.aim ?? "cost"}
          options={AIMS}
          onChange={(aim) => at.setWish({ ...wish, aim })}
          width={120}
        />
        <span className="text-muted">with at least</span>
        <NumberField
          label="Reserve"
          value={wish.reserve_db}
          unit="db"
          width={44}
          commit={(text) => at.read(wish, { field: "reserve_db", text, outlet: "" })}
        />
        <span>of reserve</span>
      </p>
      <p className="m-0 flex flex-wrap gap-x-4">
        {TREES.map(([key, words]) => (
          <label key={key} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={trees.includes(key)}
              disabled={trees.length === 1 && trees.includes(key)}
              onChange={(e) =>
                at.setWish({
                  ...wish,
                  trees: e.target.checked ? [...trees, key] : trees.filter((t) => t !== key),
                })
              }
            />
            {words}
          </label>
        ))}
      </p>
    </div>
  );
}

/** What stands in the way: of the part that is kept, or of every tree. */
function Ahead({ design }: { design: Design }) {
  if (!design.ahead.length && design.plans.length) return null;
  return (
    <section aria-label="What stands in the way" className="border-line border-b py-3 text-dense">
      {design.ahead.length > 0 && (
        <>
          <h3 className="m-0 font-bold text-dense">
            Wrong ahead of the first branch: no design can mend it
          </h3>
          {design.ahead.map((title, i) => (
            <p key={i} className="m-0">
              <Say it={title} />
            </p>
          ))}
        </>
      )}
      {design.plans.length === 0 && (
        <>
          <h3 className="m-0 pt-1 font-bold text-dense">Nothing fits</h3>
          {design.nearest && (
            <p className="m-0">
              The smallest thing to give up: <Say it={design.nearest} />.
            </p>
          )}
          <ul className="m-0 list-none p-0">
            {design.tried.map((t, i) => (
              <li key={i}>
                {t.what}:{" "}
                <span className="text-muted">
                  <Say it={t.why} />
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

/** The plan that the service chose, and the dearest beside it. */
function firstPick(design: Design | null): { a: number | null; b: number | null } {
  const a = design?.chosen ?? null;
  const last = (design?.plans.length ?? 0) - 1;
  return { a, b: last > 0 && last !== a ? last : null };
}
