import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";

/** Minutes after midnight throughout. */
export type ChartBar = {
  begin: number;
  end: number;
  who: number[];
  words: string;
  high: boolean;
  clash: string;
};
export type ChartWait = { begin: number; end: number; words: string; meanwhile: string };
export type ChartVisit = {
  key: string;
  name: string;
  place: string;
  road: number;
  arrives: number;
  bars: ChartBar[];
  waits: ChartWait[];
  said: string;
};
type Span = { begin: number; end: number };
type Wind = { at: number; ms: number; gust: number | null };

const LEFT = 124;
const TOP = 18;
const WIND = 52;
const LANE = 23;
const CHAR = 6.1;

/** Wind and light over the hours, and below them who is where: copper is work at height, sand is on the
 * ground, a dashed outline waits, the thick copper line is the road. */
export function DayChart({
  width,
  visits,
  lanes,
  wind,
  most,
  mostSaid,
  noHeight,
  dark,
}: {
  width: number;
  visits: ChartVisit[];
  lanes: number;
  wind: Wind[];
  most: number;
  mostSaid: string;
  noHeight: Span[];
  dark: Span[];
}) {
  const begins = visits.map((v) => v.arrives - v.road);
  const ends = visits.flatMap((v) => [...v.bars, ...v.waits].map((b) => b.end));
  const from = Math.floor(Math.min(...begins, 8 * 60) / 60) * 60;
  const until = Math.ceil(Math.max(...ends, 17 * 60) / 60) * 60;
  const x = scaleLinear([from, until], [LEFT, width - 12]);
  const top = Math.max(most * 1.5, ...wind.map((w) => w.gust ?? w.ms)) * 1.05;
  const y = scaleLinear([0, top], [TOP + WIND, TOP]);
  const inside = (s: Span) => ({ begin: Math.max(s.begin, from), end: Math.min(s.end, until) });
  const shut = noHeight.map(inside).filter((s) => s.end > s.begin);
  const unlit = dark.map(inside).filter((s) => s.end > s.begin);
  const row = lanes * LANE + 24;
  const first = TOP + WIND + 34;
  const hours = Array.from({ length: (until - from) / 60 + 1 }, (_, n) => from + 60 * n);
  const every = x(from + 60) - x(from) > 34 ? 1 : 2;
  const height = first + visits.length * row + 4;
  const shown = wind.filter((w) => w.at >= from && w.at <= until);
  const mean = line<Wind>(
    (w) => x(w.at),
    (w) => y(w.ms),
  );
  const gusts = line<Wind>(
    (w) => x(w.at),
    (w) => y(w.gust ?? w.ms),
  );
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`The day: ${visits.map((v) => `${v.name} at ${clock(v.arrives)}`).join(", ")}`}
      className="block"
    >
      <rect x={LEFT} y={TOP} width={width - 12 - LEFT} height={WIND} fill="var(--color-sky)" />
      {unlit.map((s) => (
        <rect
          key={`d${s.begin}`}
          x={x(s.begin)}
          y={TOP}
          width={x(s.end) - x(s.begin)}
          height={WIND}
          fill="var(--color-ink)"
          opacity={0.55}
        />
      ))}
      {shut.map((s) => (
        <rect
          key={`w${s.begin}`}
          x={x(s.begin)}
          y={TOP}
          width={x(s.end) - x(s.begin)}
          height={WIND}
          fill="var(--color-ground)"
        />
      ))}
      <path d={gusts(shown) ?? ""} fill="none" stroke="var(--color-muted)" strokeDasharray="2 3" />
      <path d={mean(shown) ?? ""} fill="none" stroke="var(--color-ink)" strokeWidth={1.75} />
      <line
        x1={LEFT}
        x2={width - 12}
        y1={y(most)}
        y2={y(most)}
        stroke="var(--color-fail)"
        strokeDasharray="4 3"
      />
      <text x={LEFT - 8} y={y(most) + 4} textAnchor="end" className="num fill-fail text-[12px]">
        {mostSaid}
      </text>
      <text x={LEFT - 8} y={TOP + WIND - 1} textAnchor="end" className="fill-muted text-[12px]">
        {shown.length ? "wind" : "no forecast"}
      </text>
      {shut[0] && (
        <text
          x={Math.min(x(shut[0].begin) + 5, width - 130)}
          y={TOP - 5}
          className="fill-fail font-semibold text-[12px]"
        >
          no work at height
        </text>
      )}
      {hours.map((h, n) => (
        <g key={h}>
          <line x1={x(h)} x2={x(h)} y1={TOP + WIND} y2={height - 4} stroke="var(--color-line)" />
          {n % every === 0 && (
            <text
              x={x(h)}
              y={TOP + WIND + 16}
              textAnchor="middle"
              className="num fill-muted text-[12px]"
            >
              {clock(h).slice(0, 2)}
            </text>
          )}
        </g>
      ))}
      {visits.map((v, n) => (
        <Row
          key={v.key}
          visit={v}
          at={first + n * row}
          x={x}
          width={width}
          lanes={lanes}
          row={row}
        />
      ))}
    </svg>
  );
}

function Row({
  visit: v,
  at,
  x,
  width,
  lanes,
  row,
}: {
  visit: ChartVisit;
  at: number;
  x: (minute: number) => number;
  width: number;
  lanes: number;
  row: number;
}) {
  const mid = at + (lanes * LANE) / 2;
  return (
    <g>
      <text x={0} y={at + 14} className="fill-ink font-semibold text-[14px]">
        {cut(v.name, LEFT - 12, 7.4)}
      </text>
      <text x={0} y={at + 31} className="fill-muted text-[12px]">
        {cut(v.place, LEFT - 12, CHAR)}
      </text>
      <line
        x1={x(v.arrives - v.road)}
        x2={x(v.arrives)}
        y1={mid}
        y2={mid}
        stroke="var(--color-copper)"
        strokeWidth={2.5}
      />
      {v.road > 0 && (
        <text
          x={x(v.arrives) - 3}
          y={mid - 5}
          textAnchor="end"
          className="num fill-muted text-[12px]"
        >
          {Math.round(v.road)} min
        </text>
      )}
      {v.waits.map((w) => (
        <g key={w.begin}>
          <rect
            x={x(w.begin)}
            y={at}
            width={Math.max(x(w.end) - x(w.begin), 3)}
            height={lanes * LANE - 3}
            rx={2}
            fill="none"
            stroke="var(--color-muted)"
            strokeDasharray="3 2"
          />
          <title>{`waits for ${w.words}${w.meanwhile ? `; meanwhile ${w.meanwhile}` : ""}`}</title>
        </g>
      ))}
      {v.bars.flatMap((b) =>
        b.who.map((who) => <Piece key={`${b.begin}-${who}`} bar={b} x={x} y={at + who * LANE} />),
      )}
      {v.said && (
        <text
          x={x(v.arrives)}
          y={at + lanes * LANE + 11}
          className="fill-fail font-semibold text-[12px]"
        >
          {cut(v.said, width - 12 - x(v.arrives), 6.4)}
        </text>
      )}
      <line x1={0} x2={width - 12} y1={at + row - 6} y2={at + row - 6} stroke="var(--color-line)" />
    </g>
  );
}

function Piece({ bar: b, x, y }: { bar: ChartBar; x: (minute: number) => number; y: number }) {
  const wide = x(b.end) - x(b.begin) - 1.5;
  const words = cut(b.words, wide - 8, CHAR);
  return (
    <g>
      <title>{`${clock(b.begin)} to ${clock(b.end)} ${b.words}${b.high ? ", at height" : ""}${b.clash ? `: ${b.clash}` : ""}`}</title>
      <rect
        x={x(b.begin)}
        y={y}
        width={Math.max(wide, 2)}
        height={LANE - 3}
        rx={2}
        fill={b.high ? "var(--color-copper)" : "var(--color-halo)"}
      />
      {b.clash && (
        <rect
          x={x(b.begin) - 2}
          y={y - 2}
          width={Math.max(wide, 2) + 4}
          height={LANE + 1}
          rx={3}
          fill="none"
          stroke="var(--color-fail)"
          strokeWidth={2}
        />
      )}
      {words.length > 2 && (
        <text
          x={x(b.begin) + 4}
          y={y + 14.5}
          className={`text-[12px] ${b.high ? "fill-sheet" : "fill-ink"}`}
        >
          {words}
        </text>
      )}
    </g>
  );
}

/** As much of a text as fits into so many pixels. */
function cut(text: string, room: number, char: number): string {
  const most = Math.floor(room / char);
  return text.length <= most ? text : most > 3 ? `${text.slice(0, most - 1).trimEnd()}…` : "";
}

export function clock(minutes: number): string {
  const whole = Math.round(minutes);
  return `${String(Math.floor(whole / 60) % 24).padStart(2, "0")}:${String(whole % 60).padStart(2, "0")}`;
}
