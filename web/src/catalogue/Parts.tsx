import { useQuery } from "@tanstack/react-query";
import { type Catalogue, client, type PartType } from "../service/client";
import { told } from "../service/refusals";
import { OuterFrame } from "../shell/OuterFrame";

export function useCatalogue() {
  return useQuery({
    queryKey: ["catalogue"],
    queryFn: () => told(client.GET("/api/catalogue")) as Promise<Catalogue>,
  }).data;
}

function lossAt(part: PartType) {
  if (part.lnb_gain_db) return `gain ${part.lnb_gain_db} dB`;
  const gains = (part.paths?.[0]?.gain_db ?? []).map((r) => r[1]);
  if (!gains.length) return "";
  const low = Math.min(...gains);
  const high = Math.max(...gains);
  if (low > 0) return `gain ${low.toFixed(0)}${low === high ? "" : ` to ${high.toFixed(0)}`} dB`;
  return low === high
    ? `${(-low).toFixed(1)} dB`
    : `${(-high).toFixed(1)} to ${(-low).toFixed(1)} dB`;
}

function rangeOf(part: PartType) {
  const paths = part.paths ?? [];
  if (!paths.length) return `${part.low_mhz} to ${part.high_mhz}`;
  return `${Math.min(...paths.map((p) => p.low_mhz))} to ${Math.max(...paths.map((p) => p.high_mhz))}`;
}

export default function Parts() {
  const catalogue = useCatalogue();
  if (!catalogue) return <OuterFrame title="Parts">{null}</OuterFrame>;
  return (
    <OuterFrame title="Parts">
      <p className="m-0 mb-4 text-dense text-quiet">
        {catalogue.origin}. A data sheet replaces them.
      </p>
      <div className="grid grid-cols-[1fr_2fr] gap-8 max-lg:grid-cols-1">
        <table className="h-fit w-full border-collapse text-dense">
          <thead>
            <tr className="border-line border-b text-quiet">
              <th scope="col" className="py-1.5 font-semibold text-ink">
                Cable
              </th>
              <th scope="col" className="text-right">
                690 MHz, dB/100 m
              </th>
              <th scope="col" className="text-right">
                2150 MHz
              </th>
              <th scope="col" className="text-right">
                loop Ω/km
              </th>
            </tr>
          </thead>
          <tbody>
            {Object.values(catalogue.cables).map((c) => (
              <tr key={c.key} className="border-line border-b">
                <th scope="row" className="py-1.5">
                  {c.name}
                </th>
                <td className="num text-right">{(c.a * Math.sqrt(690) + c.b * 690).toFixed(1)}</td>
                <td className="num text-right">
                  {(c.a * Math.sqrt(2150) + c.b * 2150).toFixed(1)}
                </td>
                <td className="num text-right">{c.loop_ohm_km}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <table className="w-full border-collapse text-dense">
          <thead>
            <tr className="border-line border-b text-quiet">
              <th scope="col" className="py-1.5 font-semibold text-ink">
                Part
              </th>
              <th scope="col" className="text-right">
                in, out
              </th>
              <th scope="col" className="text-right">
                MHz
              </th>
              <th scope="col" className="text-right">
                loss
              </th>
              <th scope="col" className="pl-6">
                power
              </th>
            </tr>
          </thead>
          <tbody>
            {Object.values(catalogue.parts).map((p) => (
              <tr key={p.key} className="border-line border-b">
                <th scope="row" className="py-1.5">
                  {p.name}
                </th>
                <td className="num text-right">
                  {p.inputs}, {p.outputs}
                </td>
                <td className="num text-right">{rangeOf(p)}</td>
                <td className="num text-right">{lossAt(p)}</td>
                <td className="pl-6 text-quiet">
                  {p.load
                    ? `needs ${p.load.ma} mA at ${p.load.low_v} to ${p.load.high_v} V`
                    : p.supply
                      ? `gives ${p.supply.volts} V, ${p.supply.most_ma} mA`
                      : (p.dc ?? []).length
                        ? "passes"
                        : ""}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </OuterFrame>
  );
}
