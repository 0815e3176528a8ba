import { useShown } from "../units/showing";
import { shown, textOf, unitName } from "../units/units";
import type { Antenna, MastAnswer } from "../wire/types";
import { COLOUR } from "./StateMark";

/** Words over lines of the picture keep the sky round them. */
const OVER = { paintOrder: "stroke", stroke: "var(--color-sky)", strokeWidth: 4 } as const;
const BRACKETS = ["wall", "eave", "balcony", "chimney", "roof"];

/** What the mast stands on, from the side. */
function Stands({
  kind,
  x,
  y,
  held,
}: {
  kind: string;
  x: number;
  y: (m: number) => number;
  held: number;
}) {
  const solid = { fill: "var(--color-ground)", stroke: "var(--color-ink)" };
  const words = (text: string, tx: number, ty: number) => (
    <text x={tx} y={ty} textAnchor="middle" fontSize="12">
      {text}
    </text>
  );
  const foot = y(-held);
  if (kind === "pole")
    return (
      <g>
        <rect x="0" y={y(0)} width="400" height={372 - y(0)} {...solid} stroke="none" />
        <path d={`M0 ${y(0)}H400`} stroke="var(--color-ink)" />
        <rect x={x - 26} y={y(0)} width="52" height={foot - y(0) + 10} fill="var(--color-line)" />
        {words("footing", x - 60, foot)}
      </g>
    );
  if (kind === "ballast" || kind === "tripod")
    return (
      <g>
        <path d={`M40 ${foot + 8}H360`} stroke="var(--color-ink)" strokeWidth="2" />
        {kind === "tripod" ? (
          <path
            d={`M${x} ${y(0) - 30}L${x - 60} ${foot + 8}M${x} ${y(0) - 30}L${x + 60} ${foot + 8}`}
            stroke="var(--color-ink)"
            strokeWidth="3"
          />
        ) : (
          <path d={`M${x - 70} ${foot + 3}H${x + 70}`} stroke="var(--color-ink)" strokeWidth="5" />
        )}
        {[-64, 34].map((d) => (
          <rect key={d} x={x + d} y={foot - 14} width="30" height="18" {...solid} />
        ))}
        {words("ballast", x + 110, foot)}
      </g>
    );
  if (kind === "loft")
    return (
      <g>
        <path d={`M60 372L${x} 24L340 372`} fill="none" stroke="var(--color-ink)" strokeWidth="3" />
        <path d={`M60 ${foot + 6}H340`} stroke="var(--color-ink)" strokeWidth="4" />
        {words("joist", 112, foot - 4)}
      </g>
    );
  if (kind === "jpole")
    return (
      <g>
        <rect x={x + 34} y={y(0.15) - 20} width="130" height={392 - y(0.15)} {...solid} />
        <rect x={x + 28} y={y(0) - 2} width="6" height="36" fill="var(--color-ink)" />
        <path
          d={`M${x} ${y(0)}V${y(0) + 8}Q${x} ${y(0) + 16} ${x + 10} ${y(0) + 16}H${x + 30}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="5"
        />
        {words("foot plate", x + 100, y(0) + 20)}
      </g>
    );
  if (kind === "vehicle")
    return (
      <g>
        <rect x={x - 130} y={y(0)} width="260" height="60" {...solid} />
        {words("roof", x, y(0) + 34)}
      </g>
    );
  if (kind === "roof")
    return (
      <g>
        <path d={`M${x - 140} 372L${x + 14} ${y(-held) - 4}L${x + 150} 372Z`} {...solid} />
        <path
          d={`M${x + 14} ${y(-held) - 4}L${x + 14} ${y(0)}`}
          stroke="var(--color-ink)"
          strokeWidth="5"
        />
        {words("rafter", x + 20, 362)}
      </g>
    );
  const wide = kind === "chimney" ? 70 : 130;
  return (
    <g>
      <rect x={x + 14} y={y(0.15)} width={wide} height={372 - y(0.15)} {...solid} />
      {words(kind, x + 14 + wide / 2, 362)}
    </g>
  );
}

/** Side elevation to scale, with the wind on each antenna and the bending moment beside it. */
export function MastPicture({
  answer,
  antennas,
  free,
  held,
  outer,
  kind,
  guys,
}: {
  answer: MastAnswer;
  antennas: Antenna[];
  free: number;
  held: number;
  outer: number;
  /** What it stands on: a fixing, or a portable rig. */
  kind: string;
  /** Where guys are tied above the upper bracket, how far out and how far below it they are anchored [m]. */
  guys: { up: number; out: number; down: number } | null;
}) {
  const at = useShown();
  const top = Math.max(free, ...antennas.map((a) => a.on_mast_m ?? 0)) + 0.5;
  const scale = 330 / (top + held + 0.25);
  const y = (m: number) => 20 + (top - m) * scale;
  const x = 200;
  const tube = Math.max((outer / 1000) * scale, 4);
  const most = Math.max(...answer.diagram.map((d) => d[1]), answer.moment.high ?? 0, 1);
  const mx = (nm: number) => 430 + (nm / most) * 180;
  const curve = answer.diagram
    .map((d, i) => `${i ? "L" : "M"}${mx(d[1]).toFixed(1)} ${y(d[0]).toFixed(1)}`)
    .join("");
  return (
    <svg
      viewBox="0 0 660 372"
      className="w-full bg-sky"
      role="img"
      aria-label={`Mast from the side, ${answer.figure}`}
    >
      <Stands kind={kind} x={x} y={y} held={held} />
      {guys &&
        [-1, 1].map((side) => (
          <path
            key={side}
            d={`M${x} ${y(guys.up)}L${x + side * guys.out * scale} ${y(-guys.down)}`}
            stroke="var(--color-ink)"
            strokeDasharray="7 3"
          />
        ))}
      <rect
        x={x - tube / 2}
        y={y(free)}
        width={tube}
        height={(free + held) * scale}
        fill="var(--color-sheet)"
        stroke="var(--color-ink)"
        strokeWidth="1.5"
      />
      {(BRACKETS.includes(kind) ? [0, -held] : []).map((h) => (
        <g key={h}>
          <path
            d={`M${x - tube / 2 - 5} ${y(h) - 4}h${tube + 10}v8h-${tube + 10}zM${x + tube / 2 + 5} ${y(h)}h${14 - tube / 2}`}
            fill="var(--color-ink)"
            stroke="var(--color-ink)"
            strokeWidth="3"
          />
        </g>
      ))}
      {held > 0 && kind !== "tripod" && (
        <text x={x + 24} y={y(-held / 2) + 4} fontSize="12" {...(kind === "loft" ? OVER : {})}>
          {kind === "pole" ? "in the ground" : "held"}{" "}
          {textOf({ value: held, unit: "m", digits: 2 }, at)}
        </text>
      )}
      {antennas.map((a) => {
        const h = y(a.on_mast_m ?? 0);
        const load = answer.loads.find((l) => l.antenna === a.id);
        const size = a.kind === "dish" ? ((a.diameter_m ?? 0.8) * scale) / 2 : 26;
        return (
          <g key={a.id}>
            {a.kind === "dish" ? (
              <path
                d={`M${x - 8} ${h - size}Q${x - 30} ${h} ${x - 8} ${h + size}`}
                fill="var(--color-sheet)"
                stroke="var(--color-ink)"
                strokeWidth="2"
              />
            ) : (
              <g stroke="var(--color-ink)" strokeWidth="2">
                <line x1={x - 70} x2={x + 30} y1={h} y2={h} />
                {[-66, -50, -34, -18, 16].map((d, i) => (
                  <line key={d} x1={x + d} x2={x + d} y1={h - 5 - i * 1.5} y2={h + 5 + i * 1.5} />
                ))}
              </g>
            )}
            <path d={`M20 ${h}h58m-8 -5l8 5l-8 5`} fill="none" stroke="var(--color-ink)" />
            <text x="20" y={h - 8} fontSize="12" className="mono">
              {load ? textOf({ value: load.force_n, unit: "n", digits: 0 }, at) : ""}
            </text>
            <text x={x + 36} y={h - 6} fontSize="13" fontWeight="600" {...OVER}>
              {a.name}
            </text>
            <text x={x + 36} y={h + 9} fontSize="12" className="mono" {...OVER}>
              {textOf({ value: a.on_mast_m ?? 0, unit: "m", digits: 2 }, at)} up
            </text>
          </g>
        );
      })}
      <line x1="430" x2="430" y1={y(free)} y2={y(0)} stroke="var(--color-ink)" />
      <path d={`${curve}L430 ${y(free)}L430 ${y(0)}Z`} fill="var(--color-halo)" stroke="none" />
      <path d={curve} fill="none" stroke={COLOUR[answer.moment.state]} strokeWidth="2.5" />
      {answer.moment.high != null && (
        <path
          d={`M${mx(answer.moment.high) - 6} ${y(free)}h6V${y(0)}h-6`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.5"
        />
      )}
      <text x="430" y={y(0) + 20} fontSize="12">
        bending moment, {unitName("nm", at)}
      </text>
      <text
        x={Math.min(mx(answer.moment.value ?? 0) + 6, 560)}
        y={y(0) - 6}
        fontSize="13"
        fontWeight="700"
        className="mono"
      >
        {shown(answer.moment.value ?? 0, "nm", 0, at).figure}
      </text>
      <text
        x={mx(answer.moment.high ?? 0)}
        y={y(free) - 6}
        fontSize="12"
        textAnchor="end"
        className="mono"
      >
        {shown(answer.moment.high ?? 0, "nm", 0, at).figure}
      </text>
    </svg>
  );
}
