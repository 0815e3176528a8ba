import { useState } from "react";
import { StateWord } from "../../instruments/StateMark";
import { RefusalWords } from "../../parts/RefusalWords";
import { Cell, Head, Table, Title } from "../../parts/table";
import { TextField } from "../../parts/Value";
import type { Frequencies as View } from "../../service/client";
import { useFrequencies } from "../../service/pages";
import { figureOf } from "../../units/units";
import { useDish } from "./useDish";

/** Where every transponder lies on the cable, and what the receiver is told. */
export function Frequencies() {
  const { dish, picker } = useDish();
  const [lo, setLo] = useState("");
  const { data } = useFrequencies(dish?.id ?? null, "");
  const { data: wrong, error } = useFrequencies(lo ? (dish?.id ?? null) : null, lo);
  if (!dish) return <p className="text-dense">No dish yet: add one at Mast or Aim.</p>;
  const plans = data?.plans ?? [];
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-6">
      {picker && <p className="m-0 text-dense">{picker}</p>}
      {plans.length === 0 && (
        <p className="m-0 text-dense">
          {dish.name} has no LNB in the run yet: start the run with one at Coax.
        </p>
      )}
      {plans.map((p) => (
        <Plan key={p.lnb} plan={p} />
      ))}
      {plans.length > 0 && (
        <section aria-label="Wrong oscillator" className="text-dense">
          <Title>When the receiver is told a wrong oscillator</Title>
          <p className="m-0 flex flex-wrap items-baseline gap-2">
            It was told{" "}
            <TextField
              label="Oscillator the receiver was told"
              value={lo}
              width={84}
              placeholder="9750 MHz"
              commit={async (t) => {
                setLo(t);
                return null;
              }}
            />{" "}
            and is asked for each transponder:
          </p>
          {error && (
            <p role="alert" className="m-0 text-fail">
              <b>{error.field}:</b> <RefusalWords it={error} />
            </p>
          )}
          {wrong && !error && wrong.wrong.length > 0 && <Wrong view={wrong} />}
        </section>
      )}
    </div>
  );
}

function Plan({ plan }: { plan: View["plans"][number] }) {
  return (
    <section aria-label={`Frequency plan of ${plan.lnb_name}`}>
      <Table
        title={plan.lnb_name}
        least={780}
        heads={
          <>
            <Head right>MHz</Head>
            <Head>pol.</Head>
            <Head>band</Head>
            <Head right>LO MHz</Head>
            <Head right>on the cable MHz</Head>
            <Head>spectrum</Head>
            <Head right>output</Head>
            <Head wide>switched by</Head>
            <Head>passes the run</Head>
          </>
        }
      >
        {plan.lines.map((l) => (
          <tr key={l.carrier} className="border-line border-b">
            <th scope="row" className="py-1.5">
              {l.name}
            </th>
            <Cell right>{figureOf(l.frequency_mhz, 0)}</Cell>
            <Cell>{l.polarisation}</Cell>
            <Cell>{l.band}</Cell>
            <Cell right>{l.lo_mhz == null ? "" : figureOf(l.lo_mhz, 0)}</Cell>
            <Cell right>{l.if_mhz == null ? "" : figureOf(l.if_mhz, 0)}</Cell>
            <Cell>{l.if_mhz == null ? "" : l.inverted ? "inverted" : "upright"}</Cell>
            <Cell right>{l.output == null ? "" : l.output + 1}</Cell>
            <td className="pl-6">
              {l.slot != null
                ? `user band ${l.slot}`
                : l.volts == null
                  ? ""
                  : `${figureOf(l.volts, 0)} V${l.tone ? ", tone" : ""}`}
            </td>
            <td className="pl-3">
              <span className="flex items-center gap-2">
                <StateWord state={l.state} />
                {l.stopped_by}
              </span>
            </td>
          </tr>
        ))}
      </Table>
      <div className="mt-2 flex flex-wrap gap-x-10 gap-y-2 text-dense">
        <div>
          <b>Tell the receiver</b>
          <ul className="m-0 list-none p-0">
            {plan.receiver.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ul>
        </div>
        {plan.user_bands.length > 0 && (
          <div>
            <b>User bands</b>
            <ol className="m-0 grid list-none grid-cols-4 gap-x-5 p-0">
              {plan.user_bands.map((u) => (
                <li key={u[0]} className="num">
                  {u[0]}: {u[1]} MHz, {u[2]} wide
                </li>
              ))}
            </ol>
          </div>
        )}
      </div>
    </section>
  );
}

function Wrong({ view }: { view: View }) {
  const names = new Map(
    view.plans.flatMap((p) => p.lines.map((l) => [l.carrier, l.name] as const)),
  );
  return (
    <Table
      title="Asked for"
      least={420}
      heads={
        <>
          <Head right>IF it asks for MHz</Head>
          <Head right>that is really MHz</Head>
          <Head wide>it finds</Head>
        </>
      }
    >
      {view.wrong.map((w) => (
        <tr key={w.carrier} className="border-line border-b">
          <th scope="row" className="py-1.5">
            {names.get(w.carrier)}
          </th>
          <Cell right>{figureOf(w.asked_mhz, 0)}</Cell>
          <Cell right>{figureOf(w.tunes_mhz, 0)}</Cell>
          <td className="pl-6">{w.finds}</td>
        </tr>
      ))}
    </Table>
  );
}
