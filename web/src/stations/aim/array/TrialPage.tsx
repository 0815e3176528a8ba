import { useState } from "react";
import { BracketGauge } from "../../../instruments/BracketGauge";
import { emptied } from "../../../parts/emptied";
import { AddRow, NewText, RemoveButton } from "../../../parts/rows";
import { Title } from "../../../parts/table";
import { NumberField, TextField } from "../../../parts/Value";
import type { TrialLine } from "../../../service/client";
import { Say, useShown } from "../../../units/showing";
import { figureOf, inUnit, shown, unitName } from "../../../units/units";
import type { ArrayPage } from "./page";
import { useArrayWrites } from "./useArrayWrites";

/** Spots where the antenna was held: what was read against the forecast; the best one is taken. */
export function TrialPage({ detail, antenna }: ArrayPage) {
  const { trial } = detail;
  const at = useShown();
  const { standAt, set } = useArrayWrites(antenna.id);
  const best = trial.spots.find((h) => h.id === trial.best);
  return (
    <div className="grid gap-4">
      <section aria-label="Trial answer" className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <p className="m-0 max-w-3xl text-head leading-7">{trial.words}</p>
        {best &&
          (best.taken ? (
            <span className="font-semibold text-ok">
              taken: its readings are the source{" "}
              <button
                type="button"
                className="ml-2 font-normal text-muted underline"
                onClick={() => set({ stands_at: null })}
              >
                go back to the forecast
              </button>
            </span>
          ) : (
            <button type="button" className="copper-button" onClick={() => standAt(best.id)}>
              Take {best.place}
            </button>
          ))}
      </section>
      <div className="overflow-x-auto">
        <table className="border-collapse text-dense">
          <thead>
            <tr className="border-line border-b align-top">
              <th scope="col" className="py-1.5 pr-4 font-bold text-body">
                Spots
              </th>
              {trial.spots.map((h) => (
                <Spot key={h.id} spot={h} antenna={antenna.id} best={h.id === trial.best} />
              ))}
            </tr>
          </thead>
          <tbody>
            {trial.wanted.map((w, i) => (
              <tr key={w[0] as string} className="h-[30px] border-line border-b">
                <th scope="row" className="whitespace-nowrap pr-4">
                  <b>{w[1]}</b>{" "}
                  <span className="num text-muted">{figureOf(w[2] as number, 0)}</span>
                </th>
                {trial.spots.map((h) => (
                  <Read
                    key={h.id}
                    spot={h}
                    line={h.lines.find((l) => l.carrier === w[0]) ?? h.lines[i]!}
                    antenna={antenna.id}
                    margin={detail.margin_db}
                    best={h.id === trial.best}
                  />
                ))}
              </tr>
            ))}
            <tr className="border-ink border-t">
              <th scope="row" className="py-1.5 pr-4">
                Hold their margin
              </th>
              {trial.spots.map((h) => (
                <Verdict key={h.id} spot={h} antenna={antenna.id} best={h.id === trial.best} />
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      <AddSpot antenna={antenna.id} />
      <div className="grid grid-cols-2 gap-x-8 gap-y-3 text-dense max-lg:grid-cols-1">
        <section aria-label="What to try next">
          <Title>Try next</Title>
          <ul className="m-0 list-none p-0">
            {trial.next_try.map((n, i) => (
              <li key={i} className="border-line border-b py-1">
                <Say it={n} />
              </li>
            ))}
          </ul>
        </section>
        <p className="m-0 text-muted">
          Each cell: forecast, level read in {shown(0, "dbuv", 0, at).unit} / C/N or MER read in dB;
          bracket at the wanted margin. Quality goes before strength: a spot is as good as the
          multiplexes that hold their margin there, then as the weakest of them. Hold the antenna
          still, clear of your body; read when the figure rests.
        </p>
      </div>
    </div>
  );
}

type OfSpot = { spot: TrialLine; antenna: string; best: boolean };
const shade = (best: boolean) => (best ? "bg-paper" : "");

function Spot({ spot, antenna, best }: OfSpot) {
  const { setSpot, removeSpot } = useArrayWrites(antenna);
  const field = (
    name: string,
    key: "above_ground_m" | "heading_deg" | "tilt_deg",
    unit: "m" | "deg_true" | "deg",
    digits: number,
  ) => (
    <NumberField
      label={`${name} at ${spot.place}`}
      value={spot[key]}
      unit={unit}
      digits={digits}
      width={digits ? 34 : 30}
      commit={(t) => setSpot(spot.id, { [key]: t })}
    />
  );
  return (
    <th scope="col" className={`w-[232px] border-line border-l px-3 py-1.5 ${shade(best)}`}>
      <span className="flex items-center justify-between gap-2">
        <TextField
          label={`Name of spot ${spot.rank}`}
          value={spot.place}
          width={172}
          commit={(t) => setSpot(spot.id, { place: t })}
        />
        <RemoveButton
          mark
          label={`Remove ${spot.place}`}
          remove={() => removeSpot(spot.id)}
          className="text-muted"
        />
      </span>
      <span className="flex flex-wrap gap-x-2 font-normal">
        {field("Height", "above_ground_m", "m", 1)} {field("Heading", "heading_deg", "deg_true", 0)}
        <span>up {field("Tilt", "tilt_deg", "deg", 0)}</span>
      </span>
      <span className="block font-normal text-muted leading-dense">{spot.words}</span>
    </th>
  );
}

function Read({
  spot,
  line,
  antenna,
  margin,
  best,
}: OfSpot & { line: TrialLine["lines"][number]; margin: number }) {
  const { readAt } = useArrayWrites(antenna);
  const at = useShown();
  if (!line) return <td className="border-line border-l" />;
  const judged =
    line.margin_db == null
      ? null
      : {
          value: Math.max(line.margin_db, -12),
          unit: "db" as const,
          low: margin,
          high: null,
          reserve: 1,
          state: line.state,
        };
  return (
    <td className={`whitespace-nowrap border-line border-l px-3 ${shade(best)}`}>
      <span className="flex items-center gap-1.5">
        <span className="num w-8 text-right text-muted">
          {line.forecast_dbuv == null ? "" : shown(line.forecast_dbuv, "dbuv", 0, at).figure}
        </span>
        <NumberField
          label={`${line.name} level at ${spot.place}`}
          value={line.read_dbuv}
          unit="dbuv"
          width={40}
          showUnit={false}
          commit={(t) => readAt(spot.id, line.carrier, { level_dbuv: t.trim() ? t : null })}
        />
        <span className="text-muted">/</span>
        <NumberField
          label={`${line.name} quality at ${spot.place}`}
          value={line.quality_db}
          unit="db"
          width={38}
          showUnit={false}
          commit={(t) => readAt(spot.id, line.carrier, { cn_db: t.trim() ? t : null })}
        />
        {judged && <BracketGauge width={40} gauge={judged} />}
        {line.echoes && <b className="text-marginal">echo</b>}
      </span>
    </td>
  );
}

function Verdict({ spot, antenna, best }: OfSpot) {
  const { standAt } = useArrayWrites(antenna);
  return (
    <td className={`border-line border-l px-3 py-1.5 ${shade(best)}`}>
      <span className="flex items-baseline justify-between gap-3">
        <b className="num">
          {spot.good} of {spot.lines.length}
        </b>
        <span className="text-muted">
          {spot.read === 0 ? "not read" : spot.rank === 1 ? "best" : `place ${spot.rank}`}
        </span>
        {spot.taken ? (
          <b className="text-ok">taken</b>
        ) : (
          spot.read > 0 && (
            <button
              type="button"
              className="underline"
              aria-label={`Take it: ${spot.place}`}
              onClick={() => standAt(spot.id)}
            >
              take it
            </button>
          )
        )}
      </span>
    </td>
  );
}

function AddSpot({ antenna }: { antenna: string }) {
  const { addSpot } = useArrayWrites(antenna);
  const at = useShown();
  const [place, setPlace] = useState("");
  const [height, setHeight] = useState("");
  const [heading, setHeading] = useState("");
  const add = async () => {
    const said = await addSpot({
      place,
      above_ground_m: inUnit(height, "m", at),
      heading_deg: heading,
    });
    if (!said) {
      setPlace(emptied(place));
      setHeight(emptied(height));
      setHeading(emptied(heading));
    }
    return said;
  };
  return (
    <AddRow button="Add spot" add={add}>
      <NewText label="Spot" value={place} change={setPlace} width="w-44" hint="south gable" />
      <NewText
        label="Spot's height"
        value={height}
        change={setHeight}
        width="w-24"
        hint={`height, ${unitName("m", at)}`}
      />
      <NewText
        label="Spot's heading"
        value={heading}
        change={setHeading}
        width="w-28"
        hint="heading, °T"
      />
    </AddRow>
  );
}
