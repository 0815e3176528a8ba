import { ArraySide } from "../../../instruments/ArraySide";
import { PatternRose } from "../../../instruments/PatternRose";
import { PictureRegion } from "../../../parts/PictureRegion";
import { NumberField } from "../../../parts/Value";
import type { Aim, ArrayRow } from "../../../service/client";
import { useArray } from "../../../service/pages";
import { figureOf } from "../../../units/units";
import { useStationWrites } from "../../edits";
import { Notes, Panel } from "../Panel";

/** The two instruments of a terrestrial antenna beside the bearing: its body, its pattern. */
export function ArrayPanels({ a, antenna }: { a: Aim; antenna: ArrayRow }) {
  const { array: write } = useStationWrites();
  const { data } = useArray(antenna.id, "run");
  const detail = data?.antenna === antenna.id ? data : undefined;
  return (
    <>
      <Panel title="Antenna" note={`${antenna.name}, from the side`}>
        <PictureRegion name="Side view of the antenna">
          <ArraySide
            length={antenna.length_m ?? 1}
            upright={a.skew_short === "upright"}
            wave={detail?.wave_m ?? 0.5}
            name={`to ${a.target_name}`}
          />
        </PictureRegion>
        <Notes>
          <p className="m-0">{a.skew_words}</p>
          Long{" "}
          <NumberField
            label="Antenna length"
            value={antenna.length_m}
            unit="m"
            width={40}
            commit={(t) => write(antenna.id, { length_m: t })}
          />
          , gain <b className="num">{figureOf(detail?.gain_dbi ?? antenna.gain_dbi ?? 0, 1)}</b>{" "}
          dBi, beam <b className="num">{figureOf(a.beamwidth_deg, 0)}°</b>
        </Notes>
      </Panel>
      <Panel title="Pattern" note="where it looks now">
        {detail && detail.heading_deg != null && (
          <PictureRegion name="Antenna pattern">
            <PatternRose
              pattern={detail.pattern}
              heading={detail.heading_deg}
              rays={detail.rays.map((r) => ({
                name: r[0] as string,
                bearing: r[1] as number,
                lost: r[2] as number,
              }))}
            />
          </PictureRegion>
        )}
        <Notes>An envelope: a real pattern has deep nulls beside its main lobe.</Notes>
      </Panel>
    </>
  );
}
