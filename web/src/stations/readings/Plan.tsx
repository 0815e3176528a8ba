import { useState } from "react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { StateWord } from "../../instruments/StateMark";
import { Problems } from "../../parts/Problems";
import { PageTabs, usePageOf } from "../../parts/Tabs";
import { Choice, NumberField } from "../../parts/Value";
import type { NetworkCarrier, ReadingCell, ReadingRow } from "../../service/client";
import { useAnswers, useJob } from "../../service/job";
import { useMeterRows } from "../../service/rows";
import { useShown } from "../../units/showing";
import { figureOf, shown } from "../../units/units";
import { Expected } from "./Expected";

type Mode = "level" | "cn";

const PAGES = [
  { key: "grid", name: "Readings" },
  { key: "expected", name: "Expected scan" },
];

export default function ReadingsPlan() {
  const [page, open] = usePageOf(PAGES);
  return (
    <PageTabs pages={PAGES} open={page} onOpen={open} label="Pages of Readings">
      {(key) => (key === "expected" ? <Expected /> : <Grid />)}
    </PageTabs>
  );
}

function Grid() {
  const job = useJob("targets");
  const answers = useAnswers("coax", "readings");
  const [mode, setMode] = useState<Mode>("level");
  const r = answers.readings;
  const channels = answers.coax.channels;
  const targets = new Map((job.targets ?? []).map((t) => [t.id, t.name]));
  const heads = channels.reduce<{ target: string; count: number }[]>((all, l) => {
    const last = all[all.length - 1];
    if (last?.target === l.target) last.count += 1;
    else all.push({ target: l.target, count: 1 });
    return all;
  }, []);
  const unit = shown(0, "dbuv", 0, useShown()).unit;
  if (!r.rows.length)
    return <p className="m-0">Nothing to read yet: the run at Coax has no outlets.</p>;
  return (
    <div>
      <section aria-label="Answer" className="flex flex-wrap items-center gap-x-8 gap-y-2 pb-3">
        <div className="text-answer leading-10" style={{ letterSpacing: "-0.01em" }}>
          {r.headline}
        </div>
        {r.overall.value != null && (
          <div className="flex items-center gap-3">
            <BracketGauge gauge={r.overall} width={110} height={18} />
            <StateWord state={r.overall.state} />
          </div>
        )}
        <div className="text-dense">
          <div className="font-bold text-lead">{r.figure}</div>
          <div className="text-muted">{r.detail}</div>
        </div>
        <div className="ml-auto text-dense">
          Write{" "}
          <Choice
            label="What is written"
            value={mode}
            options={[
              ["level", "levels"],
              ["cn", "C/N or MER"],
            ]}
            onChange={setMode}
          />
        </div>
      </section>
      <div className="overflow-x-auto">
        <table className="border-collapse text-dense">
          <thead>
            <tr>
              <td />
              {heads.map((h, i) => (
                <th
                  key={`${h.target}${i}`}
                  scope="colgroup"
                  colSpan={h.count}
                  className="border-line border-l pl-2 font-bold"
                >
                  {targets.get(h.target)}
                </th>
              ))}
              <td />
            </tr>
            <tr className="border-line border-b">
              <th scope="col" className="py-1 text-right font-normal text-muted">
                MHz
              </th>
              {channels.map((l) => (
                <th key={l.id} scope="col" className="whitespace-nowrap px-1.5">
                  <b className="num">{l.frequency_mhz.toFixed(0)}</b> {l.band || l.name}
                </th>
              ))}
              <th scope="col" className="pl-2">
                as read
              </th>
            </tr>
          </thead>
          <tbody>
            {r.rows.map((row, i) => (
              <Row
                key={row.part}
                row={row}
                channels={channels}
                mode={mode}
                gap={i > 0 && r.rows[i - 1]?.floor !== row.floor}
              />
            ))}
          </tbody>
          <tfoot>
            <tr className="border-ink border-t">
              <th scope="row" className="py-1 font-bold">
                Mean off by, dB
              </th>
              {r.means.map((m) => (
                <td key={m.carrier} className="whitespace-nowrap px-2 text-right">
                  {m.deviation.value != null && (
                    <span className="inline-flex items-center gap-1">
                      <span className="num">
                        {m.deviation.value > 0 ? "+" : ""}
                        {figureOf(m.deviation.value, 1)}
                      </span>
                      <BracketGauge gauge={m.deviation} width={30} />
                    </span>
                  )}
                </td>
              ))}
              <td />
            </tr>
          </tfoot>
        </table>
      </div>
      <p className="mt-2 mb-4 text-dense text-muted">
        Each cell: planned, then read
        {mode === "level" ? `, in ${unit}` : ", in dB"}; gauge: read against planned, bracket at ±
        {r.tolerance_db} dB ({r.tolerance_origin}). As read: against the outlet's own window.
      </p>
      <Problems rows={r.problems} />
    </div>
  );
}

function Row({
  row,
  channels,
  mode,
  gap,
}: {
  row: ReadingRow;
  channels: NetworkCarrier[];
  mode: Mode;
  gap: boolean;
}) {
  const read = new Map(row.cells.map((c) => [c.carrier, c]));
  const place = new Map(row.carriers.map((c, i) => [c, i]));
  return (
    <tr className={`h-[22px] ${gap ? "border-line border-t" : ""}`}>
      <th scope="row" className="whitespace-nowrap pr-3">
        <span
          aria-hidden="true"
          className={`mr-2 inline-block h-2.5 w-2.5 border-2 border-copper ${row.kind === "outlet" ? "rounded-full" : ""}`}
        />
        <span className={row.kind === "outlet" ? "" : "font-bold"}>{row.name}</span>
      </th>
      {channels.map((l) => {
        const i = place.get(l.id);
        const plan = mode === "level" ? row.planned_dbuv : row.planned_cn_db;
        return (
          <td key={l.id} className="whitespace-nowrap px-1.5">
            {i !== undefined && (
              <Cell row={row} channel={l} planned={plan[i]} cell={read.get(l.id)} mode={mode} />
            )}
          </td>
        );
      })}
      <td className="whitespace-nowrap pl-2">
        {row.kind === "outlet" && <StateWord state={row.as_read} />}
      </td>
    </tr>
  );
}

function Cell({
  row,
  channel,
  planned,
  cell,
  mode,
}: {
  row: ReadingRow;
  channel: NetworkCarrier;
  planned: number | null | undefined;
  cell: ReadingCell | undefined;
  mode: Mode;
}) {
  const said = useMeterRows("readings", "part");
  const at = useShown();
  const write = (text: string) => {
    const value = text.trim() === "" ? null : text;
    const body = mode === "level" ? { level_dbuv: value } : { cn_db: value };
    return said(row.part, channel.id, body);
  };
  const judged = mode === "level" ? cell?.deviation : cell?.quality;
  const what = `${row.name}, ${channel.frequency_mhz.toFixed(0)} MHz ${mode === "level" ? "level" : "C/N"}`;
  return (
    <span className="inline-flex items-center gap-1">
      <span className="num w-9 text-right text-muted">
        {planned == null
          ? ""
          : mode === "level"
            ? shown(planned, "dbuv", 1, at).figure
            : figureOf(planned, 1)}
      </span>
      <NumberField
        label={what}
        value={mode === "level" ? cell?.read_dbuv : cell?.read_cn_db}
        unit={mode === "level" ? "dbuv" : "db"}
        showUnit={false}
        width={40}
        commit={write}
      />
      {judged?.value != null && <BracketGauge gauge={judged} width={26} />}
    </span>
  );
}
