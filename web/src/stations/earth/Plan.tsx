import { TriangleAlert } from "lucide-react";
import { BracketGauge } from "../../instruments/BracketGauge";
import { EarthPicture } from "../../instruments/EarthPicture";
import { Answer, AnswerStrip, BigFigure, Digits } from "../../instruments/Figure";
import { JobRegion } from "../../parts/JobRegion";
import { PictureRegion } from "../../parts/PictureRegion";
import { Problems } from "../../parts/Problems";
import { Choice, NumberField, Tick } from "../../parts/Value";
import { useAnswers, useJob } from "../../service/job";
import { Say, useShown } from "../../units/showing";
import { textOf } from "../../units/units";
import { useStationWrites } from "../edits";
import { BondRows } from "./BondRows";
import { LineDead, OVERHEAD } from "./Overhead";

export default function EarthPlan() {
  const job = useJob("earth");
  const { earth } = useAnswers("earth");
  const { earth: write } = useStationWrites();

  const e = job.earth!;
  const needed = earth.bonds.filter((b) => b.needed);
  const good = needed.filter((b) => b.state === "ok").length;
  return (
    <>
      <ul className="m-0 list-none border-fail border-b-2 px-6 py-2 text-dense max-md:px-4">
        {earth.cautions.map((c, i) => (
          <li key={c} className="flex items-start gap-2 py-0.5">
            <TriangleAlert
              size={16}
              aria-hidden="true"
              className={`mt-0.5 shrink-0 text-fail ${i === 0 ? "" : "invisible"}`}
            />
            {i === 0 ? <b>{c}</b> : c}
          </li>
        ))}
      </ul>
      <AnswerStrip>
        <Answer title="conductors joined and right" more={earth.school} state={earth.state}>
          <span className="whitespace-nowrap">
            <Digits text={String(good)} />
            <span className="mx-2 text-figure">of</span>
            <Digits text={String(needed.length)} />
          </span>
        </Answer>
        <Answer
          title={earth.lightning_earth ? "lightning earth asked" : "no lightning earth asked"}
          more={<Say it={earth.exemption} />}
          wide
        >
          <span className="text-large">
            {earth.lightning_earth ? "earth the mast" : "bond only"}
          </span>
        </Answer>
        <Answer
          title="to the nearest overhead line"
          more="so that the mast may fall"
          state={earth.overhead.state}
        >
          {e.overhead_lines === "none" ? (
            <span className="text-figure">none near</span>
          ) : (
            <BigFigure value={earth.overhead.value} unit="m" />
          )}
          {earth.overhead.value != null && (
            <BracketGauge gauge={earth.overhead} width={90} height={18} />
          )}
        </Answer>
      </AnswerStrip>
      <div className="grid grid-cols-[1fr_320px] border-line border-b max-lg:grid-cols-1">
        <PictureRegion name="Earthing picture">
          <EarthPicture bonds={earth.bonds} />
        </PictureRegion>
        <div className="px-6 py-3 text-dense">
          <p className="m-0 flex justify-between border-line border-b py-1.5">
            Overhead lines{" "}
            <Choice
              label="Overhead lines"
              value={e.overhead_lines ?? "unknown"}
              options={OVERHEAD}
              width={180}
              onChange={(v) => write({ overhead_lines: v })}
            />
          </p>
          {e.overhead_lines === "near" && (
            <p className="m-0 flex justify-between border-line border-b py-1.5">
              Line away{" "}
              <NumberField
                label="Overhead line away"
                value={e.line_distance_m}
                unit="m"
                commit={(t) => write({ line_distance_m: t })}
              />
            </p>
          )}
          {e.overhead_lines === "near" && (
            <p className="m-0 flex justify-between border-line border-b py-1.5">
              Its voltage{" "}
              <NumberField
                label="Its voltage"
                value={e.line_kv}
                unit="kv"
                commit={(t) => write({ line_kv: t })}
                placeholder="ask its operator"
              />
            </p>
          )}
          {e.overhead_lines === "dead" && (
            <div className="border-line border-b py-1.5">
              <LineDead />
            </div>
          )}
          <p className="m-0 border-line border-b py-1.5">
            <Tick
              label="All antennas indoors"
              on={Boolean(e.indoors)}
              onChange={(indoors) => write({ indoors })}
            />
          </p>
          <Shelter />
          <Lightning />
        </div>
      </div>
      <div className="grid grid-cols-1 gap-6 px-6 py-4 max-md:px-4">
        <JobRegion name="Conductors">
          <section aria-label="Conductors" className="overflow-x-auto">
            <table className="w-full min-w-[940px] border-collapse text-dense">
              <thead>
                <tr className="border-line border-b text-muted">
                  <th scope="col" className="w-[92px]">
                    <span className="sr-only">State</span>
                  </th>
                  <th scope="col" className="py-1.5 font-bold text-body text-ink">
                    Conductor
                  </th>
                  <th scope="col">asked</th>
                  <th scope="col">from, to</th>
                  <th scope="col">material</th>
                  <th scope="col" className="text-right">
                    size
                  </th>
                  <th scope="col" className="text-right">
                    length
                  </th>
                  <th scope="col" className="px-4">
                    joined
                  </th>
                  <th scope="col">origin</th>
                </tr>
              </thead>
              <tbody>
                {earth.bonds.map((b) => (
                  <BondRows key={b.key} b={b} />
                ))}
              </tbody>
            </table>
          </section>
        </JobRegion>
        <Problems rows={earth.problems} />
      </div>
    </>
  );
}

const LINE = "m-0 flex justify-between border-line border-b py-1.5";

/** How the antennas stand to roof and wall: from the roof edge where it is known, else as typed. */
function Shelter() {
  const job = useJob("earth", "site");
  const { earth } = useAnswers("earth");
  const write = useStationWrites();

  const e = job.earth!;
  const at = useShown();
  const told = (m: number) => textOf({ value: m, unit: "m", digits: 1 }, at);
  return (
    <>
      <p className={LINE}>
        Roof edge above ground{" "}
        <NumberField
          label="Roof edge above ground"
          value={job.site?.roof_edge_m}
          unit="m"
          placeholder="unknown"
          commit={(t) => write.site({ roof_edge_m: t })}
        />
      </p>
      {earth.from_geometry ? (
        <p className="m-0 border-line border-b py-1.5">
          So the highest point is <b className="num">{told(Math.abs(earth.below_edge))}</b>{" "}
          {earth.below_edge >= 0 ? "below" : "above"} the roof edge, the outermost{" "}
          <b className="num">{told(earth.from_wall)}</b> from the wall.
        </p>
      ) : (
        <>
          <p className={LINE}>
            Below the roof edge{" "}
            <NumberField
              label="Below the roof edge"
              value={e.below_roof_edge_m}
              unit="m"
              commit={(t) => write.earth({ below_roof_edge_m: t })}
            />
          </p>
          <p className={LINE}>
            Out from the wall{" "}
            <NumberField
              label="Out from the wall"
              value={e.from_wall_m}
              unit="m"
              commit={(t) => write.earth({ from_wall_m: t })}
            />
          </p>
        </>
      )}
    </>
  );
}

/** The house's own lightning protection, and the antenna's own electrode. */
function Lightning() {
  const job = useJob("earth");
  const { earth } = useAnswers("earth");
  const { earth: write } = useStationWrites();

  const e = job.earth!;
  return (
    <>
      <p className={LINE}>
        Lightning protection{" "}
        <Choice
          label="The house's lightning protection"
          value={e.lps ?? "none"}
          options={[
            ["none", "none"],
            ["there", "on the house"],
          ]}
          width={150}
          onChange={(lps) => write({ lps })}
        />
      </p>
      {earth.apart && (
        <p className={LINE}>
          From it{" "}
          <span className="flex items-center gap-2">
            <BracketGauge gauge={earth.apart} width={70} />
            <NumberField
              label="From the lightning protection"
              value={e.lps_apart_m}
              unit="m"
              digits={2}
              placeholder="measure"
              commit={(t) => write({ lps_apart_m: t })}
            />
          </span>
        </p>
      )}
      {earth.asks_electrode && (
        <p className={LINE}>
          Electrode{" "}
          <Choice
            label="Electrode"
            value={e.electrode ?? "own"}
            options={[
              ["own", "its own rod"],
              ["building", "the building's"],
            ]}
            width={130}
            onChange={(electrode) => write({ electrode })}
          />
        </p>
      )}
      {earth.lightning_earth && e.electrode !== "building" && <Electrode />}
      {earth.electrode && (
        <p className={LINE}>
          It reads{" "}
          <span className="flex items-center gap-2">
            <BracketGauge gauge={earth.electrode} width={70} />
            <NumberField
              label="Electrode to earth"
              value={e.electrode_ohm}
              unit="ohm"
              width={90}
              placeholder="not read"
              commit={(t) => write({ electrode_ohm: t })}
            />
          </span>
        </p>
      )}
    </>
  );
}

const KINDS = [
  ["unknown", "not said"],
  ["rod", "rod, upright"],
  ["horizontal", "strip or wire, level"],
  ["foundation", "in the foundation"],
  ["plate", "plate"],
] as const;

/** The antenna's own electrode: its kind, how long, how many, in what ground, and what it should read. */
function Electrode() {
  const job = useJob("earth");
  const { earth } = useAnswers("earth");
  const { earth: write } = useStationWrites();

  const e = job.earth!;
  const at = useShown();
  const kind = e.electrode_kind ?? "unknown";
  return (
    <>
      <p className={LINE}>
        Own electrode{" "}
        <Choice
          label="Kind of electrode"
          value={kind}
          options={KINDS}
          width={170}
          onChange={(electrode_kind) => write({ electrode_kind })}
        />
      </p>
      {kind !== "unknown" && (
        <>
          <p className={LINE}>
            Each{" "}
            <span className="flex items-center gap-2">
              {earth.kind && <BracketGauge gauge={earth.kind} width={70} />}
              <NumberField
                label="Electrode, each"
                value={e.electrode_m}
                unit="m"
                digits={2}
                placeholder="how long"
                commit={(t) => write({ electrode_m: t })}
              />
            </span>
          </p>
          <p className={LINE}>
            How many{" "}
            <NumberField
              label="Electrodes"
              value={e.electrode_count ?? 1}
              unit="count"
              digits={0}
              commit={(t) => write({ electrode_count: t })}
            />
          </p>
          {(kind === "rod" || kind === "horizontal") && (
            <p className={LINE}>
              Ground{" "}
              <NumberField
                label="Resistivity of the ground"
                value={e.soil_ohm_m}
                unit="ohmm"
                digits={0}
                width={110}
                placeholder="not known"
                commit={(t) => write({ soil_ohm_m: t })}
              />
            </p>
          )}
          {earth.expected_ohm != null && (
            <p className={LINE}>
              It should read{" "}
              <span className="num">
                {textOf({ value: earth.expected_ohm, unit: "ohm", digits: 0 }, at)}
              </span>
            </p>
          )}
        </>
      )}
    </>
  );
}
