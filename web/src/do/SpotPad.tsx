import { useState } from "react";
import { BracketGauge } from "../instruments/BracketGauge";
import { emptied } from "../parts/emptied";
import { PickTabs, useParam } from "../parts/Tabs";
import { Why } from "../parts/Value";
import type { Refusal, TrialLine } from "../service/client";
import { useArray } from "../service/pages";
import { useArrayWrites } from "../stations/aim/array/useArrayWrites";
import { useShown } from "../units/showing";
import { figureOf, shown } from "../units/units";

const KEY = "min-h-14 rounded-sm border-2 border-ink px-3 font-bold text-lead";
const INPUT = "num h-14 min-w-0 rounded-sm border border-tick bg-field px-2 text-right text-figure";

/** Spots on the roof with one thumb: one multiplex at a time, level and quality, the best so far. */
export default function SpotPad({ antenna }: { antenna: string }) {
  const { data } = useArray(antenna, "run");
  const { addSpot, standAt } = useArrayWrites(antenna);
  const [open, setOpen] = useParam("spot");
  const [name, setName] = useState("");
  const [refused, refuse] = useState<Refusal | null>(null);
  if (!data || data.antenna !== antenna) return null;
  const { trial } = data;
  const spot = trial.spots.find((h) => h.id === open) ?? trial.spots[trial.spots.length - 1];
  const best = trial.spots.find((h) => h.id === trial.best);
  const add = async () => {
    const said = await addSpot({ place: name, above_ground_m: "", heading_deg: "" });
    refuse(said);
    if (!said) {
      setName(emptied(name));
      setOpen(null);
    }
  };
  return (
    <div className="grid min-w-0 gap-3">
      {best && (
        <p className="m-0 border-copper border-l-[3px] pl-3">
          {trial.words}{" "}
          {best.taken ? (
            <b className="text-ok">Taken.</b>
          ) : (
            <button type="button" className={`${KEY} mt-2 w-full`} onClick={() => standAt(best.id)}>
              Take {best.place}
            </button>
          )}
        </p>
      )}
      <PickTabs
        label="Spots"
        items={trial.spots.map((h) => ({
          key: h.id,
          body: (
            <>
              {h.place} <span className="num">{h.good}</span>
            </>
          ),
        }))}
        open={spot?.id ?? ""}
        onOpen={setOpen}
        className="flex flex-wrap gap-2"
        tab="min-h-11 rounded-sm border border-ink px-3 data-selected:bg-ink data-selected:text-sheet"
      />
      <div className="flex gap-2">
        <input
          aria-label="New spot"
          placeholder="new spot, such as west gable"
          value={name}
          onChange={(e) => setName(e.target.value)}
          className="h-14 min-w-0 flex-1 rounded-sm border border-tick bg-field px-3"
        />
        <button type="button" className={KEY} disabled={!name.trim()} onClick={add}>
          Add
        </button>
      </div>
      <Why refused={refused} />
      {spot && <Reads key={spot.id} spot={spot} antenna={antenna} margin={data.margin_db} />}
    </div>
  );
}

function Reads({ spot, antenna, margin }: { spot: TrialLine; antenna: string; margin: number }) {
  const { readAt } = useArrayWrites(antenna);
  const at = useShown();
  const first = spot.lines.findIndex((l) => l.read_dbuv == null && l.quality_db == null);
  const [index, setIndex] = useState(Math.max(first, 0));
  const [level, setLevel] = useState("");
  const [quality, setQuality] = useState("");
  const [refused, refuse] = useState<Refusal | null>(null);
  const line = spot.lines[Math.min(index, spot.lines.length - 1)];
  if (!line) return null;
  const unit = shown(0, "dbuv", 0, at).unit;
  const write = async () => {
    const body: Record<string, string> = {};
    if (level.trim()) body.level_dbuv = `${level} ${unit}`;
    if (quality.trim()) body.cn_db = quality;
    const said = await readAt(spot.id, line.carrier, body);
    refuse(said);
    if (!said) {
      setLevel(emptied(level));
      setQuality(emptied(quality));
      setIndex((i) => Math.min(i + 1, spot.lines.length - 1));
    }
  };
  return (
    <div className="grid gap-2">
      <p className="m-0 flex items-baseline justify-between">
        <b className="text-head">{line.name}</b>
        <span className="text-muted">
          forecast{" "}
          {line.forecast_dbuv == null ? "unknown" : shown(line.forecast_dbuv, "dbuv", 0, at).figure}
        </span>
      </p>
      <div className="grid grid-cols-2 gap-2">
        <label className="grid gap-1">
          <span className="text-muted">level, {unit}</span>
          <input
            className={INPUT}
            inputMode="decimal"
            placeholder={line.read_dbuv == null ? "" : shown(line.read_dbuv, "dbuv", 1, at).figure}
            value={level}
            onChange={(e) => setLevel(e.target.value)}
          />
        </label>
        <label className="grid gap-1">
          <span className="text-muted">C/N or MER, dB</span>
          <input
            className={INPUT}
            inputMode="decimal"
            placeholder={line.quality_db == null ? "" : figureOf(line.quality_db, 1)}
            value={quality}
            onChange={(e) => setQuality(e.target.value)}
          />
        </label>
      </div>
      <button
        type="button"
        className={`${KEY} bg-ink text-sheet`}
        disabled={!level.trim() && !quality.trim()}
        onClick={write}
      >
        Write and next
      </button>
      <Why refused={refused} />
      <ul className="m-0 list-none p-0">
        {spot.lines.map((l, i) => (
          <li key={l.carrier}>
            <button
              type="button"
              aria-current={i === index ? "step" : undefined}
              onClick={() => setIndex(i)}
              className={`flex min-h-11 w-full items-center gap-2 border-line border-b text-left ${i === index ? "bg-paper font-bold" : ""}`}
            >
              <span className="flex-1 whitespace-nowrap pl-2">{l.name}</span>
              <span className="num text-body">
                {l.read_dbuv == null ? "–" : shown(l.read_dbuv, "dbuv", 1, at).figure}
                {" / "}
                {l.quality_db == null ? "–" : figureOf(l.quality_db, 1)}
              </span>
              <span className="w-11">
                {l.margin_db != null && (
                  <BracketGauge
                    width={44}
                    height={18}
                    gauge={{
                      value: Math.max(l.margin_db, -12),
                      unit: "db",
                      low: margin,
                      high: null,
                      reserve: 1,
                      state: l.state,
                    }}
                  />
                )}
              </span>
              {l.echoes && <b className="pr-2 text-marginal">echo</b>}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
