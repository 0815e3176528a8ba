import { BracketGauge } from "../../instruments/BracketGauge";
import { StateWord } from "../../instruments/StateMark";
import { Opens, Waiting } from "../../parts/Opens";
import { Title } from "../../parts/table";
import type { PowerView } from "../../service/client";
import { useWrites } from "../../service/job";
import { usePowering } from "../../service/pages";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";

/** What goes up the run: voltage, current and tone on every line, and what each receiver can ask for. */
export function Powering() {
  return (
    <Opens
      label="Powering and choice"
      title="Powering and choice"
      hint="what goes up each line at both voltages, what each receiver can ask for"
    >
      {() => <Tables />}
    </Opens>
  );
}

function Tables() {
  const found = usePowering();
  if (!found.data) return <Waiting error={found.error} />;
  const { lines, consumers, supplies, asking } = found.data;
  if (!lines.length && !consumers.length && !asking.length)
    return (
      <p className="m-0 py-2">
        Nothing in this run takes power, and no receiver asks for anything.
      </p>
    );
  return (
    <div className="grid gap-4 pt-3">
      {(consumers.length > 0 || supplies.length > 0) && (
        <Ends consumers={consumers} supplies={supplies} />
      )}
      {lines.length > 0 && <Lines lines={lines} />}
      {asking.length > 0 && <Receivers asking={asking} />}
    </div>
  );
}

function Pick({ part, name }: { part: string; name: string }) {
  const { select } = useWrites();
  return (
    <button type="button" className="link text-left" onClick={() => select(part)}>
      {name}
    </button>
  );
}

/** Loads and supplies: the tick above for receivers at their lower voltage, below for the higher. */
function Ends({ consumers, supplies }: Pick2<"consumers" | "supplies">) {
  const rows = [
    ...consumers.map((c) => ({
      key: `c${c.part}`,
      part: c.part,
      name: c.name,
      does: `takes ${c.ma.toFixed(0)} mA${c.by ? ` from ${c.by}` : ", and nothing feeds it"}`,
      low: c.low,
      high: c.high,
      unit: "V",
      digits: 1,
    })),
    ...supplies.map((s) => ({
      key: `s${s.part}`,
      part: s.part,
      name: s.name,
      does: `gives ${s.low_v.toFixed(0)}${s.high_v === s.low_v ? "" : ` or ${s.high_v.toFixed(0)}`} V${s.failed ? ": asked for too much, it fails" : ""}`,
      low: s.low,
      high: s.high,
      unit: "mA",
      digits: 0,
    })),
  ];
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse">
        <caption className="text-left">
          <Title>Who takes and who gives</Title>
        </caption>
        <thead>
          <tr className="border-line border-b text-muted">
            <th scope="col">part</th>
            <th scope="col">does</th>
            <th scope="col">13 V above, 18 V below</th>
            <th scope="col" className="text-right">
              at 13 V
            </th>
            <th scope="col" className="text-right">
              at 18 V
            </th>
            <th scope="col" className="pl-6">
              state
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.key} className="border-line border-b">
              <th scope="row" className="py-1">
                <Pick part={r.part} name={r.name} />
              </th>
              <td className="text-muted">{r.does}</td>
              <td>
                <BracketGauge gauge={r.low} second={r.high} width={110} />
              </td>
              {[r.low, r.high].map((g, i) => (
                <td key={i} className="num text-right">
                  {(g.value ?? 0).toFixed(r.digits)} <span className="text-muted">{r.unit}</span>
                </td>
              ))}
              <td className="pl-6">
                <StateWord state={r.low.state === "ok" ? r.high.state : r.low.state} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Lines that say the same, once with how many they are. */
function alike(lines: PowerView["lines"]): [PowerView["lines"][number], number][] {
  const found = new Map<string, [PowerView["lines"][number], number]>();
  for (const k of lines) {
    const key = JSON.stringify({ ...k, link: "" });
    const one = found.get(key);
    if (one) one[1] += 1;
    else found.set(key, [k, 1]);
  }
  return [...found.values()];
}

type Pick2<K extends keyof PowerView> = { [P in K]: PowerView[P] };

function Lines({ lines }: Pick2<"lines">) {
  const at = useShown();
  const side = (c: PowerView["lines"][number]["low"]) => (
    <>
      <td className="num text-right">{c.volts.toFixed(1)}</td>
      <td className="num text-right">{Math.abs(c.ma).toFixed(0)}</td>
      <td className="num text-right text-muted">{Math.abs(c.lost_v).toFixed(2)}</td>
    </>
  );
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse">
        <caption className="text-left">
          <Title>What each line carries up</Title>
        </caption>
        <thead>
          <tr className="text-muted">
            <th scope="col" rowSpan={2}>
              line
            </th>
            <th scope="colgroup" colSpan={3} className="text-right">
              receivers at 13 V
            </th>
            <th scope="colgroup" colSpan={3} className="text-right">
              receivers at 18 V
            </th>
            <th scope="col" rowSpan={2} className="pl-6">
              tone, user bands
            </th>
          </tr>
          <tr className="border-line border-b text-muted">
            {["V", "mA", "V lost", "V", "mA", "V lost"].map((h, i) => (
              <th key={i} scope="col" className="text-right">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {alike(lines).map(([k, count]) => {
            const far = shown(k.length_m, "m", 0, at);
            return (
              <tr key={k.link} className="border-line border-b">
                <th scope="row" className="py-0.5">
                  {count > 1 && <span className="num">{count} × </span>}
                  {k.end} up to {k.start}
                  <span className="text-muted">
                    , <span className="num">{far.figure}</span> {far.unit}
                  </span>
                </th>
                {side(k.low)}
                {side(k.high)}
                <td className="pl-6">
                  {k.tone ? "tone" : "no tone"}
                  {k.user_bands > 0 && `, ${k.tuners} of ${k.user_bands} user bands taken`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Receivers({ asking }: Pick2<"asking">) {
  const free = asking.filter((a) => a.beside === a.wanted && !a.bound_by);
  const bound = asking.filter((a) => !free.includes(a));
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse">
        <caption className="text-left">
          <Title>What each receiver can ask for</Title>
        </caption>
        <thead>
          <tr className="border-line border-b text-muted">
            <th scope="col">outlet</th>
            <th scope="col" className="text-right">
              by itself
            </th>
            <th scope="col" className="text-right">
              whatever the others watch
            </th>
            <th scope="col" className="pl-6">
              what binds it
            </th>
          </tr>
        </thead>
        <tbody>
          {free.length > 0 && (
            <tr className="border-line border-b">
              <th scope="row" className="py-0.5">
                {free.length === 1 ? (
                  <Pick part={free[0]!.part} name={free[0]!.outlet} />
                ) : (
                  `${bound.length ? "" : "all "}${free.length} ${bound.length ? "others" : "outlets"}`
                )}
              </th>
              {[0, 1].map((i) => (
                <td key={i} className="num text-right">
                  {free[0]!.wanted} of {free[0]!.wanted}
                </td>
              ))}
              <td className="pl-6 text-muted">nothing</td>
            </tr>
          )}
          {bound.map((a) => (
            <tr key={a.part} className="border-line border-b">
              <th scope="row" className="py-0.5">
                <Pick part={a.part} name={a.outlet} />
              </th>
              {[a.alone, a.beside].map((n, i) => (
                <td
                  key={i}
                  className={`num text-right ${n < a.wanted ? "font-semibold text-marginal" : ""}`}
                >
                  {n} of {a.wanted}
                </td>
              ))}
              <td className="pl-6 text-muted">
                {a.bound_by &&
                  `${a.bound_by}${a.neighbours.length ? `, with ${a.neighbours.join(", ")}` : ", with its own other tuner"}`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
