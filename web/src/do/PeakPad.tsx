import { Minus, Plus, Volume2, VolumeX } from "lucide-react";
import { useState } from "react";
import { BigFigure } from "../instruments/Figure";
import { PeakPlot } from "../instruments/PeakPlot";
import { StateMark } from "../instruments/StateMark";
import { POSITION_UNIT, SCALE_UNIT } from "../instruments/scales";
import { useWidth } from "../instruments/useWidth";
import { emptied } from "../parts/emptied";
import { PictureRegion } from "../parts/PictureRegion";
import { PickTabs, useParam } from "../parts/Tabs";
import { Why } from "../parts/Value";
import type { Refusal } from "../service/client";
import { useAim } from "../service/pages";
import { AXES, Instruction, Tightened } from "../stations/aim/Peak";
import { useAimWrites } from "../stations/aim/useAimWrites";
import { figureOf } from "../units/units";
import { Heard, useCallOut } from "./Together";
import { useMeter } from "./useMeter";

const KEY = "grid h-16 place-items-center rounded-sm border-2 border-ink font-bold text-lead";

/** Readings with one thumb: where the screw stands, what the meter says, how far to go back. */
export default function PeakPad({ antenna, locking }: { antenna: string; locking: boolean }) {
  const { data } = useAim(antenna);
  const { sample } = useAimWrites(antenna);
  const [asked, setAxis] = useParam("axis");
  const axis = AXES.find((a) => a === asked) ?? "azimuth";
  const [live, setLive] = useState(false);
  const [sound, setSound] = useState(false);
  const [position, setPosition] = useState(0);
  const [reading, setReading] = useState("");
  const [before, setBefore] = useState(false);
  const [refused, refuse] = useState<Refusal | null>(null);
  const [ref, width] = useWidth<HTMLDivElement>(330);
  const meter = useMeter(antenna, live, sound);
  const scale = (data?.peaks.find((p) => p.axis === axis) ?? data?.peaks[0])?.scale ?? "db";
  const callOut = useCallOut(antenna, scale);
  const view = data?.peaks.find((p) => p.axis === axis) ?? data?.peaks[0];
  if (!data || !view) return null;
  const unit = (view.samples.length ? view.unit : axis === "skew" ? "deg" : "turn") as "turn";
  const step = unit === "turn" ? 0.25 : 1;
  const at = live && meter.shown ? meter.shown[axis] : position;
  const move = (by: number) =>
    live ? meter.turn(axis, by) : setPosition((p) => Math.round((p + by) * 100) / 100);
  const write = async (role: "sweep" | "before" | "after") => {
    const text = live && meter.shown ? String(meter.shown.cn_db) : reading;
    const said = await sample({
      axis,
      position: String(at),
      reading: text,
      unit,
      scale: view.scale as "db",
      role,
    });
    refuse(said);
    if (!said) {
      setReading(emptied(reading));
      setBefore(role === "before");
    }
  };
  return (
    <div ref={ref} className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-3">
      <PickTabs
        label="Axis"
        items={AXES.filter((a) => data.peaks.some((p) => p.axis === a)).map((a) => ({
          key: a,
          body: a,
        }))}
        open={axis}
        onOpen={setAxis}
        className="grid grid-cols-3 overflow-hidden rounded-sm border-2 border-ink"
        tab="min-h-12 font-bold data-selected:bg-ink data-selected:text-sheet"
      />
      {!locking &&
        (view.samples.length > 0 ? (
          <Instruction view={view} big={64} />
        ) : (
          <p className="m-0">
            Turn until the reading falls, write it, turn the other way until it has fallen again.
          </p>
        ))}
      <Heard antenna={antenna} use={live ? undefined : (v) => setReading(String(v))} />
      {!locking && view.samples.length > 1 && (
        <PictureRegion name="Peaking plot">
          <PeakPlot view={view} width={width} height={170} />
        </PictureRegion>
      )}
      <div className="grid grid-cols-[64px_1fr_64px] gap-2">
        <button type="button" aria-label="Turn back" className={KEY} onClick={() => move(-step)}>
          <Minus aria-hidden="true" />
        </button>
        <div className="grid h-16 place-items-center rounded-sm border border-tick text-center">
          <span>
            <span className="num font-semibold text-large">{figureOf(at, 2)}</span>{" "}
            {POSITION_UNIT[unit]}
          </span>
        </div>
        <button type="button" aria-label="Turn on" className={KEY} onClick={() => move(step)}>
          <Plus aria-hidden="true" />
        </button>
      </div>
      {live && meter.shown ? (
        <div className="flex items-center justify-between rounded-sm border-2 border-ink px-3">
          <BigFigure value={meter.shown.cn_db} unit="db" size={52} />
          <span className="flex items-center gap-2 font-bold">
            <StateMark state={meter.shown.locked ? "ok" : "fail"} />
            {meter.shown.locked ? "locks" : "no lock"}
          </span>
        </div>
      ) : (
        <label className="flex h-16 items-center gap-3 rounded-sm border-2 border-ink bg-field px-3">
          <span>The meter says</span>
          <input
            value={reading}
            inputMode="decimal"
            onChange={(e) => {
              setReading(e.target.value);
              callOut(e.target.value);
            }}
            className="num min-w-0 flex-1 bg-transparent text-right font-semibold text-large outline-none"
          />
          <span>{SCALE_UNIT[view.scale]}</span>
        </label>
      )}
      {locking ? (
        <div className="grid grid-cols-2 gap-2">
          <button
            type="button"
            className={KEY}
            onClick={() => write("before")}
            disabled={!live && !reading}
          >
            Before the nut
          </button>
          <button
            type="button"
            className={KEY}
            onClick={() => write("after")}
            disabled={!before || (!live && !reading)}
          >
            After it
          </button>
        </div>
      ) : (
        <button
          type="button"
          className={`${KEY} bg-ink text-sheet`}
          onClick={() => write("sweep")}
          disabled={!live && !reading}
        >
          Write this reading
        </button>
      )}
      {locking && <Tightened rows={data.tightened} />}
      <Why refused={refused} />
      <div className="flex items-center gap-3 text-body">
        <label className="flex min-h-11 flex-1 items-center gap-3">
          <input
            type="checkbox"
            checked={live}
            onChange={(e) => setLive(e.target.checked)}
            className="h-6 w-6 accent-(--color-ink)"
          />
          Simulated meter
        </label>
        {live && (
          <button
            type="button"
            aria-pressed={sound}
            aria-label="Tone of the meter"
            onClick={() => setSound(!sound)}
            className="grid h-11 w-11 place-items-center rounded-sm border border-ink"
          >
            {sound ? <Volume2 aria-hidden="true" /> : <VolumeX aria-hidden="true" />}
          </button>
        )}
      </div>
    </div>
  );
}
