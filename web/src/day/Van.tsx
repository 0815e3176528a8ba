import type { DayView } from "../service/client";
import { plain, useShown } from "../units/showing";
import { textOf } from "../units/units";

const ROWS: [string, string[]][] = [
  ["Antennas", ["antenna"]],
  ["Parts", ["part"]],
  ["Connectors", ["connector"]],
  ["Fixings, earth", ["fixing", "earth"]],
  ["Materials", ["material"]],
  ["Tools", ["tool"]],
];

/** What goes into the van for all visits: cable to scale on its reels, the rest counted. */
export function Van({ day }: { day: DayView }) {
  const at = useShown();
  const count = (need: DayView["needs"][number]) =>
    textOf({ value: need.count, unit: need.unit, digits: need.unit === "m" ? 1 : 0 }, at);
  return (
    <section aria-label="Into the van">
      <h2 className="m-0 mb-1 font-semibold text-body">
        Into the van <span className="font-normal text-dense text-muted">for all of them</span>
      </h2>
      {day.reels.length > 0 && <Reels reels={day.reels} />}
      <dl className="m-0 mt-2 grid grid-cols-[100px_minmax(0,1fr)] gap-y-1 text-dense">
        {ROWS.map(([name, kinds]) => {
          const needs = day.needs.filter((n) => kinds.includes(n.kind));
          if (!needs.length) return null;
          return (
            <div key={name} className="contents">
              <dt className="text-muted">{name}</dt>
              <dd className="m-0">
                {needs
                  .map((n) =>
                    n.kind === "tool" ? plain(n.name, at) : `${count(n)} ${plain(n.name, at)}`,
                  )
                  .join(", ")}
              </dd>
            </div>
          );
        })}
      </dl>
    </section>
  );
}

/** Each reel to scale with its cuts, whose job each is for, and what is left of it. */
function Reels({ reels }: { reels: DayView["reels"] }) {
  const at = useShown();
  const longest = Math.max(1, ...reels.map((r) => r.reel_m));
  const metres = (m: number) => textOf({ value: m, unit: "m", digits: 0 }, at);
  return (
    <div className="grid gap-1">
      {reels.map((reel, n) => (
        <div key={n} className="grid grid-cols-[100px_minmax(0,1fr)] items-center text-dense">
          <span className="truncate text-muted">{reel.name}</span>
          <span className="flex h-5" style={{ width: `${(reel.reel_m / longest) * 100}%` }}>
            {reel.cuts.map((c, i) => (
              <span
                key={i}
                title={`${c.label}: ${c.from_name} to ${c.to_name}, ${metres(c.length_m)}`}
                className="mr-px overflow-hidden whitespace-nowrap bg-halo px-1 leading-5 text-[12px]"
                style={{ width: `${(c.length_m / reel.reel_m) * 100}%` }}
              >
                {c.length_m / longest > 0.12 ? `${c.label} ${metres(c.length_m)}` : ""}
              </span>
            ))}
            {reel.left_m > 0 && (
              <span className="min-w-0 flex-1 overflow-hidden whitespace-nowrap border border-muted border-dashed px-1 leading-[18px] text-[12px] text-muted">
                {reel.left_m / longest > 0.08 ? `${metres(reel.left_m)} left` : ""}
              </span>
            )}
          </span>
        </div>
      ))}
    </div>
  );
}
