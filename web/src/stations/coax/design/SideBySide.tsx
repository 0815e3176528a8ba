import type { Design, PlanView } from "../../../service/client";
import { useShown } from "../../../units/showing";
import { figureOf, shown } from "../../../units/units";

/** The run as it is and two plans, line by line. */
export function SideBySide({ design, a, b }: { design: Design; a: PlanView; b: PlanView | null }) {
  const at = useShown();
  const plans = [design.as_it_is, a, ...(b ? [b] : [])];
  const db = (v: number | null | undefined) => (v == null ? "none" : figureOf(v, 1));
  const metres = shown(0, "m", 0, at).unit;
  const rows: [string, string, (p: PlanView) => string][] = [
    ["to buy", design.priced ? "" : "points", (p) => figureOf(p.cost, 0)],
    ["parts to buy", "", (p) => String(p.parts)],
    ["least reserve", "dB", (p) => db(p.reserve_db)],
    ["outlets in", "", (p) => `${p.inside} of ${p.wanted}`],
    ["worst tilt", "dB", (p) => db(p.tilt_db)],
    ["least margin", "dB", (p) => db(p.margin_db)],
    ["least voltage", "V", (p) => db(p.voltage_v)],
    ["cable to pull", metres, (p) => shown(p.cable_m, "m", 0, at).figure],
    ["proof", "", (p) => (p === design.as_it_is ? "" : p.proven ? "optimal" : "best found")],
  ];
  return (
    <table className="w-full border-collapse text-dense">
      <thead>
        <tr className="border-line border-b">
          <th className="py-1 text-left font-bold">Side by side</th>
          <th className="text-right font-normal text-muted">as it is</th>
          <th className="text-right font-bold text-copper">A</th>
          {b && <th className="text-right font-bold">B</th>}
          <th aria-label="unit" />
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, unit, of]) => (
          <tr key={name} className="border-line border-b">
            <th scope="row" className="py-1 text-left font-normal">
              {name}
            </th>
            {plans.map((p, i) => (
              <td
                key={i}
                className={`num text-right ${i === 1 ? "font-bold" : ""} ${i === 0 && wrong(name, p) ? "text-fail" : ""}`}
              >
                {of(p)}
              </td>
            ))}
            <td className="w-12 pl-2 text-muted">{unit}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function wrong(name: string, p: PlanView) {
  if (name === "least reserve") return p.reserve_db == null || p.reserve_db < 0;
  return name === "outlets in" && p.inside < p.wanted;
}
