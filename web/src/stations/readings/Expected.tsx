import { type FormEvent, useState } from "react";
import { StateWord } from "../../instruments/StateMark";
import { emptied } from "../../parts/emptied";
import { RemoveButton } from "../../parts/rows";
import { NAME_TAB, PickTabs, useParam } from "../../parts/Tabs";
import { Cell, Head, Table, Title } from "../../parts/table";
import { Choice, Why } from "../../parts/Value";
import type { ExpectedOutlet, Refusal } from "../../service/client";
import { useExpected } from "../../service/pages";
import { useRows } from "../../service/rows";
import { useShown } from "../../units/showing";
import { figureOf, shown } from "../../units/units";

const CHANCE: Record<string, string> = {
  sure: "should be found",
  likely: "likely",
  doubtful: "doubtful",
  no: "not to be expected",
};

/** What a scan should find at an outlet, against what it found. */
export function Expected() {
  const { data } = useExpected();
  const [chosen, choose] = useParam("outlet");
  if (!data) return null;
  const outlet = data.find((o) => o.outlet === chosen) ?? data[0];
  if (!outlet) return <p className="m-0 text-dense">No outlet wants terrestrial television.</p>;
  return (
    <div className="grid gap-4">
      <PickTabs
        label="Outlet"
        items={data.map((o) => ({ key: o.outlet, body: o.name }))}
        open={outlet.outlet}
        onOpen={choose}
        className="flex flex-wrap gap-x-5 text-dense"
        tab={NAME_TAB}
      />
      <section aria-label="Scan answer">
        {outlet.words.map((w, i) => (
          <p key={w} className={`m-0 ${i === 0 ? "text-head leading-7" : "text-body"}`}>
            {w}
          </p>
        ))}
      </section>
      <div className="grid grid-cols-[minmax(0,1fr)_320px] gap-x-6 gap-y-5 max-xl:grid-cols-1">
        <List outlet={outlet} />
        <Scans outlet={outlet} />
      </div>
    </div>
  );
}

function List({ outlet }: { outlet: ExpectedOutlet }) {
  const at = useShown();
  return (
    <section aria-label={`Expected at ${outlet.name}`} className="min-w-0">
      <Table
        title={`${outlet.services} services expected`}
        least={680}
        heads={
          <>
            <Head right>RF ch</Head>
            <Head>label</Head>
            <Head>from</Head>
            <Head right>level {shown(0, "dbuv", 0, at).unit}</Head>
            <Head right>over, dB</Head>
            <Head>a scan</Head>
            <Head>the last one</Head>
          </>
        }
      >
        {outlet.lines.map((l) => (
          <tr key={l.carrier} className="border-line border-b">
            <th scope="row" className="py-1.5 font-semibold">
              {l.name}
              <span className="block font-normal text-muted">{l.services.join(", ")}</span>
            </th>
            <Cell right>{l.rf_channel ?? figureOf(l.frequency_mhz, 1)}</Cell>
            <Cell>{l.label}</Cell>
            <Cell>{l.transmitter}</Cell>
            <Cell right>
              {l.level_dbuv == null ? "none" : shown(l.level_dbuv, "dbuv", 1, at).figure}
            </Cell>
            <Cell right>
              {l.margin_db == null
                ? ""
                : `${figureOf(l.margin_db, 1)} ±${figureOf(l.spread_db, 0)}`}
            </Cell>
            <Cell>{CHANCE[l.chance]}</Cell>
            <Cell>
              {l.found == null ? (
                <span className="text-muted">no scan yet</span>
              ) : (
                <span className="flex items-center gap-2">
                  <StateWord state={l.state} />
                  {l.found ? "found" : "missing"}
                  {l.found && l.missing.length > 0 && ` but ${l.missing.join(", ")}`}
                </span>
              )}
            </Cell>
          </tr>
        ))}
      </Table>
    </section>
  );
}

function Scans({ outlet }: { outlet: ExpectedOutlet }) {
  const scans = useRows("scans");
  const [found, setFound] = useState("");
  const [tuner, setTuner] = useState<"antenna" | "cable">("antenna");
  const [refused, refuse] = useState<Refusal | null>(null);
  const log = async (e: FormEvent) => {
    e.preventDefault();
    const said = await scans.add({ outlet: outlet.outlet, found, tuner });
    refuse(said);
    if (!said) setFound(emptied(found));
  };
  return (
    <section aria-label="Scans" className="text-dense">
      <Title>Scans</Title>
      {outlet.scans.map((s) => (
        <div key={s.id} className="flex items-baseline gap-3 border-line border-b py-1">
          <span className="num">{s.at}</span>
          <b className="num">{s.found}</b>
          <span className="flex-1 text-muted">
            {s.note}
            {s.tuner === "cable" && ", tuner set to cable"}
          </span>
          <RemoveButton label={`Remove scan of ${s.at}`} remove={() => scans.remove(s.id)} />
        </div>
      ))}
      <form onSubmit={log} className="mt-3 grid gap-2">
        <label className="grid gap-1">
          <b>What the scan found</b>
          <textarea
            className="min-h-20 rounded-sm border border-tick bg-field p-2"
            value={found}
            placeholder="Names or channel numbers, parted by commas"
            onChange={(e) => setFound(e.target.value)}
          />
        </label>
        <p className="m-0 flex flex-wrap items-center gap-3">
          <span>
            Tuner set to{" "}
            <Choice
              label="Tuner set to"
              value={tuner}
              options={[
                ["antenna", "antenna"],
                ["cable", "cable"],
              ]}
              onChange={setTuner}
            />
          </span>
          <button type="submit" className="plain-button">
            Log the scan
          </button>
        </p>
        <Why refused={refused} />
      </form>
      {outlet.extra.length > 0 && (
        <p className="m-0 mt-2">
          <b>Beyond the list:</b> {outlet.extra.join(", ")}
        </p>
      )}
    </section>
  );
}
