import { BracketGauge } from "../../../instruments/BracketGauge";
import { Cell, Head, Table, Title } from "../../../parts/table";
import { Choice, NumberField } from "../../../parts/Value";
import { useJob } from "../../../service/job";
import { useCoverings } from "../../../service/pages";
import { useShown } from "../../../units/showing";
import { figureOf, shown } from "../../../units/units";
import { useStationWrites } from "../../edits";
import type { ArrayPage } from "./page";
import { useArrayWrites } from "./useArrayWrites";

/** Which antenna is enough: every kind at its own best heading, the smallest that does it marked. */
export function ChoicePage({ detail, antenna }: ArrayPage) {
  const at = useShown();
  const { model } = useArrayWrites(antenna.id);
  const m = (v: number, digits = 1) => shown(v, "m", digits, at).figure;
  return (
    <div className="grid gap-4">
      <p className="m-0 max-w-4xl text-body">{detail.choice_words}</p>
      <div className="grid grid-cols-[minmax(0,1fr)_270px] gap-x-6 gap-y-5 max-xl:grid-cols-1">
        <section aria-label="Antennas" className="min-w-0">
          <Table
            title="Smallest first"
            least={640}
            heads={
              <>
                <Head right>dBi</Head>
                <Head right>beam</Head>
                <Head right>long {shown(0, "m", 0, at).unit}</Head>
                <Head right>heading °T</Head>
                <Head right>services</Head>
                <Head wide>weakest dB over</Head>
                <Head>
                  <span className="sr-only">Take it</span>
                </Head>
              </>
            }
          >
            {detail.choices.map((c) => {
              const here = antenna.model === c.key;
              return (
                <tr
                  key={c.key}
                  className={`border-line border-b ${c.mark === "smallest" ? "bg-paper" : ""}`}
                >
                  <th scope="row" className="whitespace-nowrap py-1.5 pl-2 font-semibold">
                    {c.name}
                    {c.mark && (
                      <span
                        className={`block font-normal ${c.mark === "smallest" ? "text-ok" : "text-muted"}`}
                      >
                        {c.mark === "smallest" ? "smallest that does it" : c.mark}
                      </span>
                    )}
                  </th>
                  <Cell right>{figureOf(c.gain_dbi, 1)}</Cell>
                  <Cell right>{figureOf(c.beamwidth_deg, 0)}</Cell>
                  <Cell right>{m(c.length_m)}</Cell>
                  <Cell right>{figureOf(c.heading_deg, 0)}</Cell>
                  <Cell right>
                    {c.services} of {c.of}
                  </Cell>
                  <td className="pl-6">
                    <span className="flex items-center gap-2">
                      <BracketGauge
                        width={60}
                        gauge={{
                          value: Math.max(c.least_db, -20),
                          unit: "db",
                          low: detail.margin_db,
                          high: null,
                          reserve: 3,
                          state: c.fits ? "ok" : c.services ? "marginal" : "fail",
                        }}
                      />
                      <b className="num w-12 text-right">{figureOf(c.least_db, 1)}</b>
                    </span>
                  </td>
                  <td className="pl-4 text-right">
                    {here ? (
                      <span className="text-muted">on the plan</span>
                    ) : (
                      <button
                        type="button"
                        className="whitespace-nowrap underline"
                        aria-label={`Take it: ${c.name}`}
                        onClick={() => model(c.key)}
                      >
                        take it
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </Table>
          <p className="m-0 mt-1.5 text-dense text-muted">
            Typical figures of a class; judged {detail.beyond}. A wanted margin of{" "}
            {detail.margin_db} dB counts.
          </p>
        </section>
        <Standing antenna={antenna} />
      </div>
    </div>
  );
}

const STANDS = [
  ["outdoors", "outdoors"],
  ["loft", "in the loft"],
  ["indoors", "indoors"],
] as const;

function Standing({ antenna }: { antenna: ArrayPage["antenna"] }) {
  const job = useJob("site");
  const { site: write } = useStationWrites();
  const { set } = useArrayWrites(antenna.id);
  const { data: coverings } = useCoverings();
  const site = job.site!;
  const inside = antenna.standing !== "outdoors";
  const line = (name: string, field: React.ReactNode) => (
    <div className="flex items-baseline justify-between gap-3 border-line border-b py-1">
      <span>{name}</span>
      {field}
    </div>
  );
  const number = (
    name: string,
    key: "gain_dbi" | "beamwidth_deg" | "front_back_db" | "above_ground_m" | "entry_loss_db",
    unit: "dbi" | "deg" | "db" | "m",
    placeholder = "",
  ) =>
    line(
      name,
      <NumberField
        label={name}
        value={antenna[key] as number | null}
        unit={unit}
        width={placeholder ? 92 : 56}
        placeholder={placeholder}
        commit={(t) => set(key === "gain_dbi" ? { gain_dbi: t, gain_table: [] } : { [key]: t })}
      />,
    );
  return (
    <section aria-label="Where it stands" className="text-dense">
      <Title>Where it stands</Title>
      {line(
        "Stands",
        <Choice
          label="Stands"
          value={antenna.standing ?? "outdoors"}
          options={STANDS}
          onChange={(standing) => set({ standing })}
        />,
      )}
      {inside &&
        line(
          "Behind",
          <Choice
            label="Behind"
            width={176}
            value={antenna.covering ?? ""}
            options={(coverings ?? []).map(
              (c) => [c.key, `${c.name}, ${c.loss_db} dB`] as [string, string],
            )}
            onChange={(covering) => set({ covering, entry_loss_db: null })}
          />,
        )}
      {inside && number("Loss into the building", "entry_loss_db", "db", "as said")}
      {number("Antenna above ground", "above_ground_m", "m", "as the mount")}
      {number("Antenna gain", "gain_dbi", "dbi")}
      {number("Half-power beamwidth", "beamwidth_deg", "deg", "from gain")}
      {number("Front to back", "front_back_db", "db")}
      {line(
        "Elements",
        <Choice
          label="Elements"
          value={antenna.elements ?? "auto"}
          options={[
            ["auto", "as most are sent"],
            ["H", "level"],
            ["V", "upright"],
          ]}
          onChange={(elements) => set({ elements })}
        />,
      )}
      {line(
        "Neighbour's ground away",
        <NumberField
          label="Neighbour's ground away"
          value={site.boundary_m}
          unit="m"
          width={72}
          placeholder="not known"
          commit={(t) => write({ boundary_m: t })}
        />,
      )}
      {inside && (
        <p className="m-0 mt-2">
          In a loft keep clear of foil, tanks and pipes, a metre from rafters ahead of it;
          amplifiers suffer above 50 °C under the roof: mount them low.
        </p>
      )}
    </section>
  );
}
