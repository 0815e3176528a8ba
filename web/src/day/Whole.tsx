import { useState } from "react";
import { clock, DayChart } from "../instruments/DayChart";
import { useWidth } from "../instruments/useWidth";
import { PictureRegion } from "../parts/PictureRegion";
import { FilePick, TextField, Why } from "../parts/Value";
import type { DayAnswer, DayEdit, DayView, Refusal } from "../service/client";
import { plain, Say, useShown } from "../units/showing";
import { inUnit, shown, textOf } from "../units/units";
import { lasts, reordered } from "./order";
import { Van } from "./Van";
import { Visits } from "./Visits";

type Ways = {
  date: string;
  answer: DayAnswer;
  change: (edit: Partial<DayEdit>) => Promise<Refusal | null>;
  forecast: (file: File | null) => Promise<Refusal | null>;
};

/** A day: its answer, its picture, its visits, what goes into the van and what is not yet sure. */
export function Whole({ date, answer, change, forecast }: Ways) {
  const { day } = answer;
  const [refused, refuse] = useState<Refusal | null>(null);
  const say = async (write: Promise<Refusal | null>) => refuse(await write);
  return (
    <div>
      <Answers day={day} take={(order) => say(change({ visits: reordered(day, order) }))} />
      <Why refused={refused} />
      {day.visits.length > 0 && <Picture day={day} />}
      <Conditions day={day} change={change} forecast={(file) => say(forecast(file))} />
      <Visits day={day} change={(edit) => say(change(edit))} travel={change} />
      {day.visits.length > 0 && (
        <div className="mt-4 grid grid-cols-[minmax(0,1fr)_340px] gap-8 border-line border-t pt-3 max-lg:grid-cols-1">
          <Van day={day} />
          <Unsure day={day} />
        </div>
      )}
      {day.visits.length > 0 && (
        <p className="no-print m-0 mt-4 flex flex-wrap gap-3">
          <a className="plain-button no-underline" href={`/api/days/${date}/calendar.ics`} download>
            Calendar
          </a>
          <a className="plain-button no-underline" href={`/api/days/${date}/kit.csv`} download>
            Van's list, CSV
          </a>
          <button type="button" className="plain-button" onClick={() => window.print()}>
            Print the day
          </button>
        </p>
      )}
    </div>
  );
}

function Answers({ day, take }: { day: DayView; take: (order: string[]) => void }) {
  const at = useShown();
  if (!day.visits.length)
    return (
      <p className="m-0 max-w-2xl text-lead">
        No job on this day yet. Add the first one below: its open steps become the work, with who
        does what when, the wind and the light, and what goes into the van.
      </p>
    );
  const shut = day.no_height.find((s) => s.end > day.plan.starts_min);
  return (
    <section
      aria-label="Answer"
      className="grid grid-cols-[repeat(3,minmax(0,230px))_minmax(0,1fr)] border-line border-b pb-3 max-lg:grid-cols-2 max-lg:gap-y-3"
    >
      <Figure big={String(day.visits.length)} unit={day.visits.length === 1 ? "job" : "jobs"}>
        {lasts(day.work_min)} of work, {lasts(day.road_min)} on the road
      </Figure>
      <Figure big={clock(day.back)} tone={day.late ? "text-fail" : ""}>
        {day.late ? "back: too late for one day" : "back, if nothing is found"}
      </Figure>
      {shut ? (
        <Figure big={clock(shut.begin)} tone="text-marginal">
          wind over {textOf({ value: day.plan.wind_most_ms, unit: "ms", digits: 0 }, at)} from then:
          no roof
        </Figure>
      ) : (
        <Figure big={day.rises != null && day.sets != null ? clock(day.sets) : "light"}>
          {day.plan.forecast.length
            ? "sunset; the wind stays under its limit"
            : "sunset; no forecast is taken in yet"}
        </Figure>
      )}
      <div className="min-w-0 pl-5 max-lg:pl-0">
        {day.proposal ? (
          <>
            <button
              type="button"
              className="copper-button min-h-9 w-full px-3"
              onClick={() => take(day.proposal!.order)}
            >
              {day.clash_min >= 1 ? "Put the roofs first" : "Take the shorter road"}
            </button>
            <p className="m-0 mt-1 text-dense text-muted">
              {day.proposal.words}; <Say it={day.proposal.effect} />
            </p>
          </>
        ) : (
          <p className="m-0 text-dense text-muted">No order of these visits is better.</p>
        )}
        {day.alone && (
          <p className="m-0 mt-1 text-dense text-fail">
            <b>Alone at height:</b> agree with someone when you call, and who comes when you do not.
          </p>
        )}
      </div>
    </section>
  );
}

function Figure({
  big,
  unit = "",
  tone = "",
  children,
}: {
  big: string;
  unit?: string;
  tone?: string;
  children: React.ReactNode;
}) {
  return (
    <div className="mr-5 border-line border-r pr-3 max-lg:border-r-0">
      <div className={`num text-answer leading-[44px] ${tone}`}>
        {big} {unit && <span className="font-text text-head">{unit}</span>}
      </div>
      <p className={`m-0 text-dense ${tone || "text-muted"}`}>{children}</p>
    </div>
  );
}

function Picture({ day }: { day: DayView }) {
  const at = useShown();
  const [ref, width] = useWidth<HTMLDivElement>(900);
  return (
    <div ref={ref} className="mt-3 overflow-x-auto">
      <PictureRegion name="Day chart">
        <DayChart
          width={Math.max(width, 640)}
          lanes={day.plan.crew.length}
          most={day.plan.wind_most_ms}
          mostSaid={textOf({ value: day.plan.wind_most_ms, unit: "ms", digits: 0 }, at)}
          wind={day.plan.forecast.map((h) => ({
            at: h.at_min,
            ms: h.wind_ms,
            gust: h.gust_ms ?? null,
          }))}
          noHeight={day.no_height}
          dark={day.dark}
          visits={day.visits.map((v) => ({
            key: v.job,
            name: v.name,
            place: v.place,
            road: v.road_min,
            arrives: v.arrives,
            bars: v.bars,
            waits: v.waits,
            said: v.clashes.map((c) => plain(c, at)).join("; "),
          }))}
        />
      </PictureRegion>
      <p className="m-0 text-dense text-muted">
        Filled: at height. Light: on the ground. Dashed: waiting.{" "}
        {day.plan.crew.length > 1 &&
          `Rows: ${day.plan.crew.map((c, n) => c || `person ${n + 1}`).join(", ")}.`}
      </p>
    </div>
  );
}

function Conditions({
  day,
  change,
  forecast,
}: {
  day: DayView;
  change: Ways["change"];
  forecast: (file: File | null) => void;
}) {
  const at = useShown();
  const { plan } = day;
  const wind = shown(plan.wind_most_ms, "ms", 0, at);
  const crew = (n: number, name: string) =>
    change({ crew: plan.crew.map((c, i) => (i === n ? name : c)) });
  return (
    <section
      aria-label="Crew, times and wind"
      className="no-print mt-3 flex flex-wrap items-end gap-x-6 gap-y-2 border-line border-t pt-3 text-dense"
    >
      <TextField
        label="Leave at"
        hideLabel={false}
        value={clock(plan.starts_min)}
        width={64}
        commit={(starts) => change({ starts })}
      />
      {plan.crew.map((name, n) => (
        <TextField
          key={n}
          label={`Person ${n + 1}`}
          hideLabel={false}
          value={name}
          placeholder="name"
          width={110}
          commit={(text) => crew(n, text)}
        />
      ))}
      <span className="flex gap-2">
        {plan.crew.length < 4 && (
          <button
            type="button"
            className="plain-button"
            onClick={() => void change({ crew: [...plan.crew, ""] })}
          >
            One more person
          </button>
        )}
        {plan.crew.length > 1 && (
          <button
            type="button"
            className="plain-button"
            onClick={() => void change({ crew: plan.crew.slice(0, -1) })}
          >
            One less
          </button>
        )}
      </span>
      <TextField
        label="No work at height over"
        hideLabel={false}
        value={wind.figure}
        suffix={wind.unit}
        width={56}
        number
        commit={(text) => change({ wind_most: inUnit(text, "ms", at) })}
      />
      <TextField
        label="Road home, min"
        hideLabel={false}
        value={plan.home_min == null ? "" : String(plan.home_min)}
        placeholder={String(Math.round(day.home_min))}
        width={56}
        commit={(home) => change({ home })}
      />
      <span className="flex flex-wrap items-center gap-2">
        <FilePick label="Forecast file" accept=".csv,text/csv" onFile={forecast}>
          Forecast from CSV
        </FilePick>
        <button type="button" className="plain-button" onClick={() => forecast(null)}>
          Simulated forecast
        </button>
        {plan.forecast.length > 0 && (
          <>
            <span className="text-muted">{plan.forecast_from}</span>
            <button
              type="button"
              className="plain-button"
              onClick={() => void change({ no_forecast: true })}
            >
              Without it
            </button>
          </>
        )}
      </span>
    </section>
  );
}

function Unsure({ day }: { day: DayView }) {
  const names = new Map(day.visits.map((v) => [v.job, v.name]));
  return (
    <section aria-label="Not yet sure">
      <h2 className="m-0 mb-1 font-semibold text-body">Not yet sure</h2>
      {day.unforecast && (
        <p className="m-0 mb-2 text-dense">
          <b>Wind:</b> no forecast covers all the work at height.
        </p>
      )}
      {day.questions.length === 0 && !day.unforecast && (
        <p className="m-0 text-dense text-muted">Nothing that the jobs tell of.</p>
      )}
      <ul className="m-0 list-none p-0 text-dense">
        {day.questions.map((q, n) => (
          <li key={n} className="mb-2 flex gap-2.5">
            <span
              aria-hidden="true"
              className="mt-[7px] h-1.5 w-1.5 shrink-0 rounded-full bg-muted"
            />
            <span>
              <b>
                {names.get(q.job)}: <Say it={q.title} />
              </b>
              <br />
              <span className="text-muted">
                <Say it={q.why} />
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
