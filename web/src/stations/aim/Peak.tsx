import { type FormEvent, useState } from "react";
import { Digits } from "../../instruments/Figure";
import { GaugeLine } from "../../instruments/GaugeLine";
import { PeakPlot } from "../../instruments/PeakPlot";
import { StateMark, TEXT } from "../../instruments/StateMark";
import { POSITION_UNIT, SCALE_UNIT } from "../../instruments/scales";
import { useWidth } from "../../instruments/useWidth";
import { emptied } from "../../parts/emptied";
import { PictureRegion } from "../../parts/PictureRegion";
import { RemoveButton } from "../../parts/rows";
import { PickTabs, useParam } from "../../parts/Tabs";
import { Choice, NumberField, Why } from "../../parts/Value";
import type { AimDetail, DishRow, PeakView, Refusal } from "../../service/client";
import { Say } from "../../units/showing";
import { figureOf } from "../../units/units";
import { useAimWrites } from "./useAimWrites";

export const AXES = ["azimuth", "elevation", "skew"] as const;
export type Axis = (typeof AXES)[number];

/** The peaking strip: readings of one axis, the fit, and how far to go back. */
export function Peak({
  detail,
  antenna,
  onFeed,
}: {
  detail: AimDetail;
  antenna: DishRow;
  onFeed?: (feed: string) => void;
}) {
  const [chosen, turnTo] = useParam("axis");
  // Circular polarisation has no skew: that axis is not there then.
  const view = detail.peaks.find((p) => p.axis === chosen) ?? detail.peaks[0]!;
  const axis = view.axis as Axis;
  const [ref, width] = useWidth<HTMLDivElement>(560);
  return (
    <div className="grid grid-cols-[230px_minmax(0,1fr)_260px] max-lg:grid-cols-1">
      <section aria-label="Instruction" className="pr-4">
        <FeedChoice detail={detail} onFeed={onFeed} />
        <Instruction view={view} />
        <Axes peaks={detail.peaks} axis={axis} nulls={antenna.two_way ?? false} onTurn={turnTo} />
        <Tightened rows={detail.tightened} />
      </section>
      <div ref={ref} className="min-w-0 border-line lg:border-x lg:px-3">
        {view.samples.length > 0 ? (
          <PictureRegion name="Peaking plot">
            <PeakPlot view={view} width={Math.max(width - 26, 260)} />
          </PictureRegion>
        ) : (
          <p className="m-0 py-10 text-center text-dense text-muted">
            No reading on this axis yet. Write where the screw stands and what the meter says,
            beside.
          </p>
        )}
        <Screw antenna={antenna} />
      </div>
      <Readings
        key={`${axis}${detail.feed}`}
        view={view}
        axis={axis}
        antenna={antenna}
        feed={detail.feed}
      />
    </div>
  );
}

export function Instruction({ view, big = 40 }: { view: PeakView; big?: number }) {
  const back = view.go_back;
  const degrees = back?.unit === "°";
  return (
    <div role="status">
      {back ? (
        <>
          <p className="m-0 font-bold text-head">Go back {back.side}</p>
          <p className="m-0">
            <Digits text={back.size} size={big} />
            <span style={{ fontSize: degrees ? big * 0.85 : 20 }}>
              {degrees ? "°" : ` ${back.unit}`}
            </span>
          </p>
        </>
      ) : (
        <p className="m-0 mb-1 font-bold text-head">{view.words || view.peak.words || "Read on"}</p>
      )}
      {view.peak.depth != null && (
        <p className="m-0 text-dense">
          The null is <b className="num">{figureOf(view.peak.depth, 1)} dB</b> deep against the
          highest reading, its place good to{" "}
          <b className="num">±{figureOf(view.peak.uncertainty ?? 0, 1)}</b>.
        </p>
      )}
      {view.arm_mm != null && view.arm_mm >= 1 && view.peak.state !== "ok" && (
        <p className="m-0 text-dense">
          <b>
            <Say it={[{ value: view.arm_mm, unit: "mm", digits: 0 }]} />
          </b>{" "}
          at the tip of the feed arm, then clamp and read again.
        </p>
      )}
      {view.peak.warning && (
        <p className="m-0 mt-1 text-dense text-marginal">{view.peak.warning}</p>
      )}
      {view.peak.next_position != null && (
        <p className="m-0 mt-1 text-dense">
          Next reading at <b className="num">{figureOf(view.peak.next_position, 2)}</b>{" "}
          {POSITION_UNIT[view.unit]}.
        </p>
      )}
    </div>
  );
}

/** Which feed the readings belong to, where a dish has several. */
export function FeedChoice({
  detail,
  onFeed,
}: {
  detail: AimDetail;
  onFeed?: (feed: string) => void;
}) {
  if (detail.feeds.length < 2 || !onFeed) return null;
  return (
    <p className="m-0 mb-2 text-dense">
      At the feed for{" "}
      <Choice
        label="Readings at the feed for"
        value={detail.feed}
        options={detail.feeds.map((f) => [f[0] as string, f[1] as string] as const)}
        onChange={onFeed}
      />
    </p>
  );
}

function Axes({
  peaks,
  axis,
  nulls,
  onTurn,
}: {
  nulls: boolean;
  peaks: PeakView[];
  axis: Axis;
  onTurn: (axis: Axis) => void;
}) {
  const items = peaks.map((p) => ({
    key: p.axis,
    body: (
      <>
        <StateMark state={p.peak.state} size={17} />
        {p.axis === "skew"
          ? nulls
            ? "skew, least of the other polarisation"
            : "skew, most of its own"
          : p.axis}
        <span className="num ml-auto font-normal">{p.samples.length || ""}</span>
      </>
    ),
  }));
  return (
    <PickTabs
      label="Axis"
      items={items}
      open={axis}
      onOpen={(key) => onTurn(key as Axis)}
      className="mt-3"
      tab="flex min-h-6 w-full items-center gap-2 text-left text-dense text-muted data-selected:font-bold data-selected:text-ink"
    />
  );
}

export function Tightened({ rows }: { rows: AimDetail["tightened"] }) {
  if (!rows.length) return null;
  return (
    <div className="mt-3 text-dense">
      <b>Nuts</b>
      {rows.map((t, i) => (
        <p key={`${t.axis}${i}`} className="m-0">
          {t.axis}: {figureOf(t.before, 1)} to {figureOf(t.after, 1)},{" "}
          <b className={TEXT[t.state]}>
            {t.lost > 0 ? `${figureOf(t.lost, 1)} lost` : "nothing lost"}
          </b>
          {t.state === "fail" && ". Loosen it and turn against the way it crept."}
        </p>
      ))}
    </div>
  );
}

function Screw({ antenna }: { antenna: DishRow }) {
  const { set } = useAimWrites(antenna.id);
  return (
    <p className="m-0 pt-1 text-dense text-muted">
      Fine screw{" "}
      <NumberField
        label="Fine screw, degrees a turn"
        value={antenna.deg_per_turn}
        unit="deg"
        digits={2}
        width={40}
        commit={(t) => set({ deg_per_turn: t })}
      />{" "}
      a turn, play{" "}
      <NumberField
        label="Play in the screw"
        value={antenna.play_turns}
        unit="count"
        digits={2}
        width={36}
        commit={(t) => set({ play_turns: t })}
      />{" "}
      turns. Come to the top from one side always.
    </p>
  );
}

const INPUT =
  "num h-8 w-full min-w-0 rounded-sm border border-tick bg-field px-1.5 text-right text-dense";

function Readings({
  view,
  axis,
  antenna,
  feed,
}: {
  view: PeakView;
  axis: Axis;
  antenna: DishRow;
  feed: string;
}) {
  const { sample, remove, clearAxis } = useAimWrites(antenna.id);
  const [unit, setUnit] = useState(view.unit as "turn" | "flat" | "deg");
  const [scale, setScale] = useState(view.scale as "db" | "pct" | "tone");
  const [position, setPosition] = useState("");
  const [reading, setReading] = useState("");
  const [refused, refuse] = useState<Refusal | null>(null);
  const fixed = view.samples.length > 0;
  const add = async (e: FormEvent) => {
    e.preventDefault();
    const body = {
      axis,
      position,
      reading,
      unit: fixed ? (view.unit as "turn") : unit,
      scale: fixed ? (view.scale as "db") : scale,
      target: feed,
    };
    const said = await sample(body);
    refuse(said);
    if (!said) {
      setPosition(emptied(position));
      setReading(emptied(reading));
    }
  };
  return (
    <section aria-label="Readings" className="pl-4 max-lg:pl-0">
      <table className="w-full border-collapse text-dense">
        <thead>
          <tr className="border-line border-b text-muted">
            <th scope="col" className="py-1 text-right">
              {fixed ? (
                `at ${POSITION_UNIT[view.unit]}`
              ) : (
                <Choice
                  label="Position in"
                  value={unit}
                  options={[
                    ["turn", "turns"],
                    ["flat", "flats"],
                    ["deg", "degrees"],
                  ]}
                  onChange={setUnit}
                />
              )}
            </th>
            <th scope="col" className="text-right">
              {fixed ? (
                SCALE_UNIT[view.scale]
              ) : (
                <Choice
                  label="Reading in"
                  value={scale}
                  options={[
                    ["db", "dB"],
                    ["pct", "%"],
                    ["tone", "tone steps"],
                  ]}
                  onChange={setScale}
                />
              )}
            </th>
            <th scope="col" className="text-right">
              off curve
            </th>
            <th scope="col" className="w-6">
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {view.samples.map((s, i) => {
            const off = view.peak.residuals[i];
            const last = i === view.samples.length - 1;
            return (
              <tr
                key={s.id}
                className={`border-line border-b ${last ? `font-bold ${TEXT[view.peak.state]}` : ""}`}
              >
                <td className="num py-0.5 text-right">{figureOf(s.position, 2)}</td>
                <td className="num text-right">{figureOf(s.reading, 1)}</td>
                <td className="num text-right">
                  {off == null ? "" : `${off >= 0.05 ? "+" : ""}${figureOf(off, 1)}`}
                </td>
                <td>
                  <RemoveButton
                    mark
                    label={`Remove the reading at ${s.position}`}
                    remove={() => remove("samples", s.id)}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <form onSubmit={add} className="mt-1.5 grid grid-cols-[1fr_1fr_auto] gap-2">
        <label>
          <span className="sr-only">Position</span>
          <input
            className={INPUT}
            value={position}
            inputMode="decimal"
            required
            placeholder={
              view.peak.next_position == null ? "at" : figureOf(view.peak.next_position, 1)
            }
            onChange={(e) => setPosition(e.target.value)}
          />
        </label>
        <label>
          <span className="sr-only">Reading</span>
          <input
            className={INPUT}
            value={reading}
            inputMode="decimal"
            required
            placeholder="reads"
            onChange={(e) => setReading(e.target.value)}
          />
        </label>
        <button type="submit" className="plain-button">
          Write
        </button>
      </form>
      <Why refused={refused} />
      {fixed && (
        <button
          type="button"
          className="mt-2 text-dense underline"
          onClick={() => clearAxis(axis, feed)}
        >
          Begin this axis anew
        </button>
      )}
      {view.lobe.value != null && (
        <div className="mt-2">
          <GaugeLine
            name="Width at 3 dB"
            gauge={view.lobe}
            width={70}
            note={view.lobe.state === "ok" ? "so it is the main lobe" : "may be a side lobe"}
          />
        </div>
      )}
    </section>
  );
}
