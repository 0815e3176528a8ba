import { Cell, Head, Table } from "../../parts/table";
import type { LinkAnswer } from "../../service/client";
import { useShown } from "../../units/showing";
import { figureOf, shown, unitName } from "../../units/units";

type Sat = LinkAnswer["link"]["satellites"][number];

/** The same service in each band: what it would ask for. */
export function Bands({ sat, diameter }: { sat: Sat; diameter: number }) {
  const at = useShown();
  if (!sat.bands.length) return null;
  return (
    <section aria-label="The same service in another band" className="min-w-0">
      <Table
        title="The same service in C, Ku and Ka"
        least={560}
        heads={
          <>
            <Head right>MHz</Head>
            <Head right>EIRP dBW</Head>
            <Head right>rain dB</Head>
            <Head right>margin dB</Head>
            <Head right>dish {unitName("m", at)}</Head>
            <Head right>its beam °</Head>
            <Head wide>EIRP is</Head>
          </>
        }
      >
        {sat.bands.map((b) => (
          <tr key={b.band} className="border-line border-b">
            <th scope="row" className="py-1.5">
              {b.band}
            </th>
            <Cell right>{figureOf(b.frequency_mhz, 0)}</Cell>
            <Cell right>{figureOf(b.eirp_dbw, 1)}</Cell>
            <Cell right>{b.rain_db == null ? "" : figureOf(b.rain_db, 1)}</Cell>
            <Cell right>{figureOf(b.margin_db, 1)}</Cell>
            <Cell right>
              {b.smallest_m == null ? "none" : shown(b.smallest_m, "m", 2, at).figure}
            </Cell>
            <Cell right>{b.beamwidth_deg == null ? "" : figureOf(b.beamwidth_deg, 1)}</Cell>
            <td className="pl-6 text-muted">{b.origin}</td>
          </tr>
        ))}
      </Table>
      <p className="m-0 mt-1 text-dense text-muted">
        Margin with this dish, {shown(diameter, "m", 2, at).figure} {unitName("m", at)}, and the
        smallest that does, for {sat.name}'s most demanding modulation at the wanted availability.
      </p>
    </section>
  );
}
