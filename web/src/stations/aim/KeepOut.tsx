import { scaleLinear, scaleLog } from "d3-scale";
import { line } from "d3-shape";
import { Answer, BigFigure } from "../../instruments/Figure";
import { Title } from "../../parts/table";
import { NumberField } from "../../parts/Value";
import type { DishRow, TwoWayView } from "../../service/client";
import { useShown } from "../../units/showing";
import { figureOf, shown, unitName } from "../../units/units";
import { useAimWrites } from "./useAimWrites";

export function KeepOut({
  view,
  antenna,
  width,
}: {
  view: TwoWayView;
  antenna: DishRow;
  width: number;
}) {
  const { set } = useAimWrites(antenna.id);
  const f = view.field;
  const curve = f.curve as number[][];
  const at = useShown();
  const unit = unitName("m", at);
  const metres = at.units === "us" ? 0.3048 : 1;
  const x = scaleLog([curve[0]![0]!, curve[curve.length - 1]![0]!], [44, width - 10]);
  const values = curve.map((c) => c[1]!);
  const y = scaleLog([Math.min(...values, 0.5) * 0.6, Math.max(...values, 5) * 1.8], [150, 10]);
  const path = line<number[]>(
    (c) => x(c[0]!),
    (c) => y(c[1]!),
  );
  return (
    <>
      <div className="flex max-md:grid max-md:grid-cols-2">
        <Answer
          title="keep people out of the beam for"
          more="on its axis; and one dish diameter aside always"
        >
          <BigFigure value={view.keep_out_m} unit="m" />
        </Answer>
        <Answer
          title="strongest in front of the dish"
          more={`anybody 1, trained 5 mW/cm²; ${view.origin}`}
        >
          <span className="whitespace-nowrap">
            <BigFigure value={Math.max(f.near_mw_cm2, f.surface_mw_cm2)} unit="count" digits={2} />{" "}
            <span className="text-head">mW/cm²</span>
          </span>
        </Answer>
      </div>
      <svg
        width={width}
        height="182"
        role="img"
        aria-label={`Power density, at most ${figureOf(f.near_mw_cm2, 2)} milliwatts a square centimetre`}
        className="block"
      >
        {[1, 5].map((v) => (
          <g key={v}>
            <line
              x1="44"
              x2={width - 10}
              y1={y(v)}
              y2={y(v)}
              stroke="var(--color-ink)"
              strokeDasharray="2 4"
            />
            <text x="40" y={y(v) + 4} textAnchor="end" fontSize="12" className="mono">
              {v}
            </text>
          </g>
        ))}
        <path d={path(curve) ?? ""} fill="none" stroke="var(--color-copper)" strokeWidth="2.5" />
        {[0.5, 1, 2, 5, 10, 20, 50, 100, 200]
          .filter((v) => v * metres > curve[0]![0]! && v * metres < curve[curve.length - 1]![0]!)
          .map((v) => (
            <g key={v}>
              <line
                x1={x(v * metres)}
                x2={x(v * metres)}
                y1="150"
                y2="155"
                stroke="var(--color-ink)"
              />
              <text x={x(v * metres)} y="170" textAnchor="middle" fontSize="12" className="mono">
                {v}
              </text>
            </g>
          ))}
        <line x1="44" x2={width - 10} y1="150" y2="150" stroke="var(--color-rail)" />
        <text x={width - 10} y="146" textAnchor="end" fontSize="12">
          {unit} from the dish
        </text>
      </svg>
      <p className="m-0 text-dense leading-6">
        Sends{" "}
        <NumberField
          label="Transmit power"
          value={antenna.transmit_w}
          unit="count"
          width={36}
          commit={(t) => set({ transmit_w: t })}
        />{" "}
        W at{" "}
        <NumberField
          label="Transmit frequency"
          value={antenna.transmit_mhz}
          unit="mhz"
          digits={0}
          width={52}
          commit={(t) => set({ transmit_mhz: t })}
        />
        . Near field to {shown(f.near_to_m, "m", 1, at).figure} {unit}, far field from{" "}
        {shown(f.far_from_m, "m", 1, at).figure} {unit}. No hand and no head before the horn unless
        it certainly cannot transmit.
      </p>
    </>
  );
}

export function Null({ view, width }: { view: TwoWayView; width: number }) {
  const rows = view.isolation as number[][];
  const x = scaleLinear([-10, 10], [36, width - 10]);
  const y = scaleLinear([10, 38], [140, 10]);
  const path = line<number[]>(
    (c) => x(c[0]!),
    (c) => y(Math.max(c[1]!, 10)),
  );
  const low = view.isolation_now.low ?? 25;
  const allowed = view.skew_allowed_deg ?? 0;
  return (
    <>
      <Title note="turn slowly, watch the other polarisation, stop at its least">
        Cross-polar null
      </Title>
      <svg
        width={width}
        height="172"
        role="img"
        aria-label={`Isolation against skew error, ${figureOf(low, 0)} dB within ${figureOf(allowed, 1)} degrees`}
        className="block"
      >
        {[15, 20, 25, 30, 35].map((v) => (
          <g key={v}>
            <line x1="36" x2={width - 10} y1={y(v)} y2={y(v)} stroke="var(--color-line)" />
            <text x="30" y={y(v) + 4} textAnchor="end" fontSize="12" className="mono">
              {v}
            </text>
          </g>
        ))}
        <path d={path(rows) ?? ""} fill="none" stroke="var(--color-copper)" strokeWidth="2.5" />
        <path
          d={`M${x(-allowed) + 6} 134H${x(-allowed)}V150H${x(-allowed) + 6}M${x(allowed) - 6} 134H${x(allowed)}V150H${x(allowed) - 6}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="2"
        />
        <line x1="36" x2={width - 10} y1="142" y2="142" stroke="var(--color-rail)" />
        {[-10, -5, 0, 5, 10].map((v) => (
          <text
            key={v}
            x={x(v)}
            y="166"
            textAnchor={v === 10 ? "end" : "middle"}
            fontSize="12"
            className="mono"
          >
            {figureOf(v, 0)}°
          </text>
        ))}
      </svg>
      <p className="m-0 text-dense">
        Within <b className="num">±{figureOf(allowed, 1)}°</b> of skew the other polarisation lies{" "}
        {figureOf(low, 0)} dB under.
      </p>
    </>
  );
}
