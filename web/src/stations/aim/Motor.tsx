import { Answer, BigFigure } from "../../instruments/Figure";
import { GaugeLine } from "../../instruments/GaugeLine";
import { MotorArc } from "../../instruments/MotorArc";
import { StateWord } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import { PictureRegion } from "../../parts/PictureRegion";
import { Cell, Head, Table, Title } from "../../parts/table";
import { NumberField } from "../../parts/Value";
import type { AimDetail, DishRow } from "../../service/client";
import { figureOf } from "../../units/units";
import { useAimWrites } from "./useAimWrites";

/** The motorised mount: settings, turns, what is reached, order of tuning, what a wrong pole does. */
export function Motor({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const { set } = useAimWrites(antenna.id);
  const [ref, width] = useWidth<HTMLDivElement>(560);
  const m = detail.motor;
  if (!m) return null;
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap gap-y-3 max-md:grid max-md:grid-cols-2">
        <Answer title="motor elevation" more="of its axis from plumb">
          <BigFigure value={m.settings.motor_elevation_deg} unit="deg" digits={2} />
        </Answer>
        <Answer title="latitude scale" more="the axis above level">
          <BigFigure value={m.settings.axis_deg} unit="deg" digits={2} />
        </Answer>
        <Answer
          title="declination"
          more={`toward the equator; best fit, ${figureOf(m.settings.worst_deg, 3)}° left`}
        >
          <BigFigure value={m.settings.declination_deg} unit="deg" digits={2} />
        </Answer>
        <Answer title="dish scale on the motor" more="tube bend less declination">
          <BigFigure value={m.settings.dish_scale_deg} unit="deg" digits={2} />
        </Answer>
      </div>
      <div className="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-x-8 gap-y-4 max-lg:grid-cols-1">
        <section ref={ref} aria-label="Motor arc" className="min-w-0">
          <PictureRegion name="Motor arc">
            <MotorArc motor={m} limit={antenna.motor_limit_deg ?? 65} width={width} />
          </PictureRegion>
          <p className="m-0 mb-1 text-dense">
            <b>Off the arc</b> copper, along it dashed; dotted is 1 dB, ±
            {figureOf(m.worst_across.high ?? 0, 2)}°. Turns in degrees from the top, seen from
            behind.
          </p>
          <GaugeLine name="Worst off the arc" gauge={m.worst_across} digits={2} width={90} />
          <p className="m-0 mt-2 text-dense leading-6">
            Pole leans{" "}
            <NumberField
              label="Pole out of plumb"
              value={antenna.lean_deg}
              unit="deg"
              width={36}
              commit={(t) => set({ lean_deg: t })}
            />{" "}
            toward{" "}
            <NumberField
              label="Pole leans toward"
              value={antenna.lean_bearing_deg}
              unit="deg_true"
              digits={0}
              width={36}
              commit={(t) => set({ lean_bearing_deg: t })}
            />
            , zero off by{" "}
            <NumberField
              label="Motor zero off by"
              value={antenna.motor_zero_deg}
              unit="deg"
              width={36}
              commit={(t) => set({ motor_zero_deg: t })}
            />
            . Motor reaches{" "}
            <NumberField
              label="Motor reaches"
              value={antenna.motor_limit_deg}
              unit="deg"
              digits={0}
              width={32}
              commit={(t) => set({ motor_limit_deg: t })}
            />{" "}
            either way, tube bend{" "}
            <NumberField
              label="Motor tube bend"
              value={antenna.motor_bend_deg}
              unit="deg"
              digits={1}
              width={36}
              commit={(t) => set({ motor_bend_deg: t })}
            />
          </p>
        </section>
        <section aria-label="Satellites on the arc">
          <Table
            title="On the arc"
            least={360}
            heads={
              <>
                <Head right>turn °</Head>
                <Head>toward</Head>
                <Head right>error °</Head>
                <Head>reached</Head>
              </>
            }
          >
            {m.stops.map((s) => (
              <tr key={s.target} className="border-line border-b">
                <th scope="row" className="py-1.5">
                  <b>{s.name}</b>{" "}
                  <span className="num text-muted">
                    {Math.abs(s.orbit_deg_e).toFixed(1)}°{s.orbit_deg_e >= 0 ? "E" : "W"}
                  </span>
                </th>
                <Cell right>{figureOf(Math.abs(s.hour_deg), 2)}</Cell>
                <Cell>{s.hour_deg > 0 ? "west" : "east"}</Cell>
                <Cell right>{figureOf(s.error_deg, 3)}</Cell>
                <td className="pl-3">
                  <span className="flex items-center gap-2">
                    <StateWord state={s.reached ? "ok" : "fail"} /> {s.why}
                  </span>
                </td>
              </tr>
            ))}
          </Table>
          <div className="mt-4">
            <Title>Order of tuning</Title>
            <ol className="m-0 list-none border-line border-t p-0 text-dense">
              {m.order.map((line, i) => (
                <li key={line} className="flex gap-3 border-line border-b py-1">
                  <b className="num">{i + 1}</b> {line}
                </li>
              ))}
            </ol>
          </div>
        </section>
      </div>
    </div>
  );
}
