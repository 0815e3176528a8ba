import { useState } from "react";
import { Cell, Head, Table, Title } from "../../parts/table";
import { Choice, NumberField, TextField, Tick } from "../../parts/Value";
import type { AimDetail, DishRow } from "../../service/client";
import { figureOf } from "../../units/units";
import { useAimWrites } from "./useAimWrites";

/** What the compass reads too high here, learned from one bearing that is known. */
function Compass({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const { set, compass } = useAimWrites(antenna.id);
  const [bearing, setBearing] = useState("");
  return (
    <>
      The compass reads{" "}
      <NumberField
        label="Compass reads too high by"
        value={antenna.compass_off_deg}
        unit="deg"
        width={48}
        commit={(t) => set({ compass_off_deg: t })}
      />{" "}
      too high. Learn it from a known bearing:{" "}
      <TextField
        label="Known bearing"
        value={bearing}
        width={60}
        number
        commit={async (t) => {
          setBearing(t);
          return null;
        }}
        placeholder={figureOf(detail.aim.azimuth_deg, 1)}
        suffix="°T"
      />{" "}
      reads{" "}
      <TextField
        label="The compass reads along it"
        value=""
        width={60}
        number
        clearAfter
        commit={(t) => compass(t, bearing || `${detail.aim.azimuth_deg}`)}
        placeholder={figureOf(detail.aim.compass_deg ?? 0, 1)}
        suffix="°M"
      />
      <span className="block text-muted">
        Of a landmark from the map, the sun at its time, or this satellite once it is peaked.
      </span>
    </>
  );
}

/** What the tool reads wherever it is laid, the scale's own zero, and the school of skew. */
export function Tools({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const { set, zero } = useAimWrites(antenna.id);
  return (
    <div className="grid grid-cols-2 gap-x-10 gap-y-6 max-lg:grid-cols-1">
      <section aria-label="Inclinometer">
        <Table
          title="Inclinometer"
          least={380}
          heads={
            <>
              <Head right>reads °</Head>
              <Head wide>where</Head>
            </>
          }
        >
          {detail.datums.map((d) => (
            <tr
              key={d.key}
              className={`border-line border-b ${d.key === antenna.datum ? "bg-paper font-semibold" : ""}`}
            >
              <th scope="row" className="py-1.5">
                {d.name}
              </th>
              <Cell right>{figureOf(d.reads_deg, 1)}</Cell>
              <td className="pl-6 text-muted">{d.words}</td>
            </tr>
          ))}
        </Table>
        <div className="mt-3 text-dense leading-7">
          <Tick
            label="The dish hangs upside down, its feed arm above"
            on={antenna.upside_down ?? false}
            onChange={(upside_down) => set({ upside_down })}
          />
          <br />
          The tool reads{" "}
          <NumberField
            label="Scale reads too high by"
            value={antenna.scale_zero_deg}
            unit="deg"
            digits={2}
            width={48}
            commit={(t) => set({ scale_zero_deg: t })}
          />{" "}
          too high. Learn it from a satellite that is peaked: it reads{" "}
          <TextField
            label="Reading on the peaked satellite"
            value=""
            width={56}
            number
            clearAfter
            commit={zero}
            placeholder={figureOf(detail.aim.inclinometer_deg ?? 0, 1)}
            suffix="°"
          />
          <span className="block text-muted">
            The learned zero stays with the kit at every further stop.
          </span>
          <Compass detail={detail} antenna={antenna} />
        </div>
      </section>
      <section aria-label="Skew">
        <Title>Skew</Title>
        <div className="border-line border-t pt-2 text-dense leading-7">
          What is turned{" "}
          <Choice
            label="What skew turns"
            value={antenna.skew_turns ?? "lnb"}
            options={[
              ["lnb", "the LNB in its clamp"],
              ["dish", "the whole dish"],
            ]}
            onChange={(skew_turns) => set({ skew_turns })}
          />
          <br />A tilt scale reads{" "}
          <Choice
            label="Tilt scale at level"
            value={antenna.level_reads ?? "0"}
            options={[
              ["0", "0"],
              ["90", "90"],
            ]}
            onChange={(level_reads) => set({ level_reads })}
          />{" "}
          at level
          <br />
          The mount is{" "}
          <Choice
            label="Mounting"
            value={antenna.mounting ?? "fixed"}
            options={[
              ["fixed", "fixed, one satellite"],
              ["multi", "fixed, several satellites"],
              ["polar", "motorised on a polar axis"],
            ]}
            onChange={(mounting) => set({ mounting })}
          />
          <br />
          Coarse aim sets{" "}
          <Choice
            label="Coarse aim sets first"
            value={antenna.coarse_first ?? "elevation"}
            options={[
              ["elevation", "elevation first, then sweeps the bearing"],
              ["azimuth", "the bearing first, then sweeps up and down"],
            ]}
            onChange={(coarse_first) => set({ coarse_first })}
          />
          <br />
          <Tick
            label="It transmits too"
            on={antenna.two_way ?? false}
            onChange={(two_way) => set({ two_way })}
          />
          <p className="m-0 text-dense leading-dense">{detail.aim.skew_words}</p>
        </div>
      </section>
    </div>
  );
}
