import { StateMark } from "../../instruments/StateMark";
import { Opens, Waiting } from "../../parts/Opens";
import { Cell, Head } from "../../parts/table";
import type { KitView } from "../../service/client";
import { useJob, useJobId } from "../../service/job";
import { useKit } from "../../service/pages";
import { Say, useShown } from "../../units/showing";
import { textOf } from "../../units/units";

const KINDS: Record<string, string> = {
  antenna: "Antennas",
  part: "Parts of the run",
  cable: "Cable",
  connector: "Connectors",
  fixing: "Fixings",
  earth: "Earth and bonding",
  material: "Materials",
  tool: "Tools",
};

/** What goes into the van, and how the cables are cut. */
export function Kit() {
  return (
    <Opens label="Kit" title="Kit" hint="what goes into the van, cables cut from their reels">
      {() => <Whole />}
    </Opens>
  );
}

function Whole() {
  const jobId = useJobId();
  const { data, error } = useKit();
  const { units } = useShown();
  if (!data) return <Waiting error={error} />;
  const kinds = [...new Set(data.needs.map((n) => n.kind))];
  return (
    <div className="grid gap-4 pt-2">
      <p className="m-0 flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <a className="plain-button" href={`/api/jobs/${jobId}/kit.csv`} download>
          List, CSV
        </a>
        <a className="plain-button" href={`/api/jobs/${jobId}/labels.pdf?units=${units}`} download>
          Labels, PDF
        </a>
        <span className="text-muted">
          {data.unpriced > 0
            ? `Prices of ${data.unpriced} lines are not known: type them at Parts.`
            : `In all ${data.cost.toFixed(2)} by the prices at Parts.`}
        </span>
      </p>
      <Reels kit={data} />
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-line border-b text-muted">
            <Head>What</Head>
            <Head right>how much</Head>
            <Head right>of it spare</Head>
            <Head>for</Head>
            <Head>came</Head>
          </tr>
        </thead>
        {kinds.map((kind) => (
          <tbody key={kind}>
            <tr>
              <th scope="rowgroup" colSpan={5} className="pt-3 pb-1 font-bold">
                {KINDS[kind] ?? kind}
              </th>
            </tr>
            {data.needs
              .filter((n) => n.kind === kind)
              .map((n, i) => (
                <Line key={i} need={n} />
              ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}

/** How it was seen when the kit came. */
function Came({ state, note }: { state: string; note: string }) {
  return (
    <span className="flex items-baseline gap-1.5">
      <StateMark state={state === "there" ? "ok" : "fail"} />
      {state}
      {note && `: ${note}`}
    </span>
  );
}

function Line({ need }: { need: KitView["needs"][number] }) {
  const at = useShown();
  const job = useJob("seen");
  const seen = (job.seen ?? []).find((s) => s.step === "site.kit" && s.thing === need.key);
  const figure = (value: number) =>
    textOf({ value, unit: need.unit, digits: need.unit === "m" ? 1 : 0 }, at);
  return (
    <tr className="border-line border-b">
      <Cell>
        <Say it={need.name} />
        {need.variant && <b>, {need.variant}</b>}
      </Cell>
      <Cell right>{figure(need.count)}</Cell>
      <Cell right>{need.spare ? figure(need.spare) : ""}</Cell>
      <Cell>
        <span className="text-muted">
          <Say it={need.why} />
        </span>
      </Cell>
      <Cell>{seen && <Came state={seen.state} note={seen.note ?? ""} />}</Cell>
    </tr>
  );
}

/** Each reel to scale with its cuts, and what is left of it. */
function Reels({ kit }: { kit: KitView }) {
  const at = useShown();
  const wide = 720;
  const longest = Math.max(1, ...kit.reels.map((r) => r.reel_m));
  const x = (m: number) => (m / longest) * wide;
  return (
    <div className="grid gap-2">
      {kit.reels.map((r, n) => {
        let at_m = 0;
        return (
          <figure key={n} className="m-0">
            <figcaption className="text-muted">
              {r.name}, {r.cuts.length} {r.cuts.length === 1 ? "piece" : "pieces"},{" "}
              {textOf({ value: r.left_m, unit: "m", digits: 1 }, at)} left
            </figcaption>
            <svg
              viewBox={`0 0 ${wide + 2} 24`}
              className="w-full max-w-[760px]"
              role="img"
              aria-label={`Reel of ${r.name}: ${r.cuts.map((c) => `${c.label} ${textOf({ value: c.length_m, unit: "m", digits: 1 }, at)}`).join(", ")}`}
            >
              <rect
                x="1"
                y="3"
                width={x(r.reel_m)}
                height="18"
                fill="none"
                stroke="var(--color-ink)"
              />
              {r.cuts.map((c) => {
                const from = at_m;
                at_m += c.length_m;
                return (
                  <g key={c.label}>
                    <rect
                      x={1 + x(from)}
                      y="3"
                      width={x(c.length_m)}
                      height="18"
                      fill="var(--color-halo)"
                      stroke="var(--color-copper)"
                    />
                    {x(c.length_m) > 26 && (
                      <text
                        x={1 + x(from + c.length_m / 2)}
                        y="16"
                        fontSize="12"
                        textAnchor="middle"
                      >
                        {c.label}
                      </text>
                    )}
                  </g>
                );
              })}
            </svg>
          </figure>
        );
      })}
      {!kit.fewest && (
        <p className="m-0 text-muted">
          One reel less might do; so many pieces are not tried in every way.
        </p>
      )}
    </div>
  );
}
