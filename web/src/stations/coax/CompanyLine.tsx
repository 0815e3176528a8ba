import { useState } from "react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { GaugeLine } from "../../instruments/GaugeLine";
import { StateWord } from "../../instruments/StateMark";
import { AddRow, NewChoice, NewText, RemoveButton } from "../../parts/rows";
import { Title } from "../../parts/table";
import { Choice, NumberField, TextField, Tick } from "../../parts/Value";
import type { Carrier, Gauge } from "../../service/client";
import { useJob, useView, useWrites } from "../../service/job";
import { useRows, useSingle } from "../../service/rows";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";

const PLANS = [
  ["none", "there is none, or it is not touched"],
  ["leave", "it is left for the own antenna"],
  ["both", "it stays beside the own antenna"],
] as const;

const QAMS = ["16QAM", "32QAM", "64QAM", "128QAM", "256QAM"].map((q) => [`DVB-C ${q}`, q] as const);

/** The cable company's line: what becomes of it, what was read at its drop. */
export function CompanyLine() {
  const job = useJob("carriers", "company", "targets");
  const problems = useView((view) => view.answers.coax.problems);
  const c = job.company!;
  const set = useSingle("company");
  const target = (job.targets ?? []).find((t) => t.kind === "line");
  const carriers = (job.carriers ?? []).filter((k) => k.target === target?.id);
  const problem = (code: string, place?: string): Gauge | null =>
    problems.find((p) => p.code === code && (!place || p.place === place))?.gauge ?? null;
  const number = (
    label: string,
    key:
      | "low_mhz"
      | "high_mhz"
      | "low_dbuv"
      | "high_dbuv"
      | "return_noise_dbuv"
      | "watched_s"
      | "mer_db"
      | "return_high_mhz"
      | "return_most_db",
    unit: "mhz" | "dbuv" | "db" | "count",
  ) => (
    <NumberField
      label={label}
      value={c[key]}
      unit={unit}
      digits={unit === "mhz" || unit === "count" ? 0 : 1}
      width={52}
      commit={(t) => set({ [key]: t.trim() ? t : null })}
    />
  );
  return (
    <section aria-label="Cable company's line" className="mt-5 max-w-4xl text-dense">
      <Title>Cable company's line</Title>
      <p className="m-0">
        <Choice
          label="Company's line"
          value={(c.plan ?? "none") as (typeof PLANS)[number][0]}
          options={PLANS}
          onChange={(plan) => set({ plan })}
        />
      </p>
      {c.plan !== "none" && (
        <div className="mt-2 grid gap-1.5">
          <p className="m-0 border-2 border-fail p-2">
            <b>Never joined:</b> an antenna or an amplifier on the company's line disturbs the whole
            street. What belongs to the company only the company opens; its earth stays on.
          </p>
          <p className="m-0 flex flex-wrap gap-x-6">
            <Tick
              label="Each line is known and labelled at both ends"
              on={c.lines_known ?? false}
              onChange={(lines_known) => set({ lines_known })}
            />
            {c.plan === "leave" && (
              <Tick
                label="The company's line is unplugged and capped"
                on={c.unplugged ?? false}
                onChange={(unplugged) => set({ unplugged })}
              />
            )}
            {c.plan === "both" && !carriers.length && (
              <Tick
                label="High pass on branches without a modem"
                on={c.filter_fitted ?? false}
                onChange={(filter_fitted) => set({ filter_fitted })}
              />
            )}
          </p>
          <p className="m-0">
            At the drop {number("Level at the lowest carrier", "low_dbuv", "dbuv")} at{" "}
            {number("Lowest carrier", "low_mhz", "mhz")},{" "}
            {number("Level at the highest carrier", "high_dbuv", "dbuv")} at{" "}
            {number("Highest carrier", "high_mhz", "mhz")}
            {c.low_dbuv != null && c.high_dbuv != null && (
              <>
                : it leans by <b className="num">{Math.abs(c.low_dbuv - c.high_dbuv).toFixed(1)}</b>{" "}
                dB
              </>
            )}
            , quality {number("MER at the drop", "mer_db", "db")}
            {c.mer_db == null && <span className="text-muted"> not read: 40 dB counts</span>}
          </p>
          <LineCarriers rows={carriers} low={c.low_mhz} high={c.high_mhz} />
          {c.plan === "both" && (
            <p className="m-0">
              A modem sends up to {number("Return band up to", "return_high_mhz", "mhz")}; the
              company takes at most {number("Most loss back to the drop", "return_most_db", "db")}{" "}
              on the way back to its drop
            </p>
          )}
          <WaysBack />
          {c.plan === "both" && (
            <p className="m-0">
              Worst return noise {number("Worst return noise", "return_noise_dbuv", "dbuv")} watched
              for {number("Watched for, s", "watched_s", "count")} s
            </p>
          )}
          {problem("drop-tilt") && <GaugeLine name="Tilt" gauge={problem("drop-tilt")!} />}
          {problem("return-noise") && (
            <GaugeLine name="Return noise" gauge={problem("return-noise")!} />
          )}
          <p className="m-0">
            <TextField
              label="Note on the lines"
              hideLabel={false}
              value={c.note ?? ""}
              width={420}
              placeholder="which line goes where"
              commit={(note) => set({ note })}
            />
          </p>
        </div>
      )}
    </section>
  );
}

/** The multiplexes on the line: put on evenly, those that stand higher or lower changed one by one. */
function LineCarriers({
  rows,
  low,
  high,
}: {
  rows: Carrier[];
  low?: number | null;
  high?: number | null;
}) {
  const { change } = useWrites();
  const list = useRows("carriers");
  const targets = useRows("targets");
  const first = { low: String(low ?? 114), high: String(high ?? 802), every: "8" };
  const [asked, ask] = useState({ ...first, modulation: QAMS[4]![0] as string });
  const [open, show] = useState(false);
  const put = () =>
    change({
      verb: "line",
      low_mhz: asked.low,
      high_mhz: asked.high,
      every_mhz: asked.every,
      modulation: asked.modulation,
    });
  const text = (label: string, key: "low" | "high" | "every") => (
    <NewText
      label={label}
      value={asked[key]}
      change={(v) => ask({ ...asked, [key]: v })}
      hint="MHz"
      required
    />
  );
  return (
    <div>
      {rows.length > 0 ? (
        <p className="m-0">
          <b className="num">{rows.length}</b> multiplexes on it,{" "}
          <span className="num">
            {Math.min(...rows.map((r) => r.frequency_mhz))} to{" "}
            {Math.max(...rows.map((r) => r.frequency_mhz))}
          </span>{" "}
          MHz{" "}
          <button type="button" className="plain-button px-2! py-0.5!" onClick={() => show(!open)}>
            {open ? "Close the list" : "One by one"}
          </button>{" "}
          <button
            type="button"
            className="plain-button px-2! py-0.5!"
            onClick={() => targets.remove(rows[0]!.target)}
          >
            Take all off
          </button>
        </p>
      ) : (
        <p className="m-0">
          Nothing is on it yet: put its multiplexes on, and the line stands in the run with what it
          carries.
        </p>
      )}
      <p className="m-0 text-muted">Lowest, highest and spacing of the multiplexes, in MHz:</p>
      {open && (
        <ul className="m-0 mt-1 grid list-none grid-cols-[repeat(auto-fill,minmax(196px,1fr))] gap-x-4 p-0">
          {rows.map((r) => (
            <li key={r.id} className="flex items-baseline gap-2 border-line border-b py-0.5">
              <span className="num w-16">{r.frequency_mhz} MHz</span>
              <NumberField
                label={`${r.frequency_mhz} MHz over the rest`}
                value={r.power}
                unit="db"
                digits={1}
                width={44}
                commit={(t) => list.set(r.id, { power: t })}
              />
              <RemoveButton
                label={`Remove ${r.frequency_mhz} MHz`}
                remove={() => list.remove(r.id)}
              />
            </li>
          ))}
        </ul>
      )}
      <AddRow button={rows.length ? "Put these on instead" : "Put them on"} add={put}>
        {text("Lowest multiplex", "low")}
        {text("Highest multiplex", "high")}
        {text("Spacing of the multiplexes", "every")}
        <NewChoice
          label="Modulation on the line"
          value={asked.modulation}
          options={QAMS}
          change={(modulation) => ask({ ...asked, modulation })}
        />
      </AddRow>
    </div>
  );
}

/** What is lost from each outlet back to the drop. */
function WaysBack() {
  const { select } = useWrites();
  const ways = useView((view) => view.answers.coax.back);
  const at = useShown();
  if (!ways.length) return null;
  return (
    <table className="w-full max-w-2xl border-collapse" aria-label="Ways back to the drop">
      <thead>
        <tr className="border-line border-b text-muted">
          <th scope="col">way back from</th>
          <th scope="col">should lose</th>
          <th scope="col">loss to the drop</th>
          <th scope="col" className="text-right">
            at
          </th>
        </tr>
      </thead>
      <tbody>
        {ways.map((w) => (
          <tr key={w.outlet} className="border-line border-b">
            <th scope="row">
              <button type="button" className="link" onClick={() => select(w.part)}>
                {w.name}
              </button>
            </th>
            <td>{w.modem ? "little, for a modem" : "much, against noise"}</td>
            <td>
              <span className="inline-flex items-center gap-2">
                <BracketGauge gauge={w.loss} width={90} height={16} />
                <span className="num">
                  {(w.loss.value ?? 0) > 200
                    ? "shut"
                    : shown(w.loss.value ?? 0, "db", 1, at).figure}
                </span>
                <StateWord state={w.loss.state} />
              </span>
            </td>
            <td className="num text-right">{w.at_mhz.toFixed(0)} MHz</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
