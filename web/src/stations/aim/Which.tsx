import { type FormEvent, useState } from "react";
import { StateMark } from "../../instruments/StateMark";
import { emptied } from "../../parts/emptied";
import { RemoveButton } from "../../parts/rows";
import { Title } from "../../parts/table";
import { Why } from "../../parts/Value";
import type { AimDetail, DishRow, Refusal } from "../../service/client";
import { useJob } from "../../service/job";
import { figureOf } from "../../units/units";
import { FeedChoice } from "./Peak";
import { useAimWrites } from "./useAimWrites";

/** From what locks: which satellite it is, how sure, what to try next, and the way to the wanted one. */
export function Which({
  detail,
  antenna,
  onFeed,
}: {
  detail: AimDetail;
  antenna: DishRow;
  onFeed?: (feed: string) => void;
}) {
  const id = detail.identity;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-8 gap-y-6 max-lg:grid-cols-1">
      <section aria-label="Which satellite is it">
        <FeedChoice detail={detail} onFeed={onFeed} />
        <h2 className="m-0 flex items-center gap-2.5 font-bold text-head">
          <StateMark state={id.state} />
          <span role="status">{id.words}</span>
        </h2>
        {id.way && <p className="m-0 mt-1 font-bold text-body">{id.way}</p>}
        {id.following && (
          <p className="m-0 mt-1 text-dense">
            Try next:{" "}
            <b className="num">
              {figureOf(id.following.frequency_mhz, 0)} MHz {id.following.polarisation},{" "}
              {figureOf(id.following.symbol_mbd, 1)} MBd
            </b>
            ; if it locks it is {id.following.if_on}.
          </p>
        )}
        <ol className="m-0 mt-3 list-none border-line border-t p-0 text-dense">
          {id.candidates.slice(0, 8).map((c) => (
            <li
              key={c.target || "none"}
              className="grid grid-cols-[130px_90px_44px_1fr] items-center gap-2 border-line border-b py-1.5"
            >
              <b>{c.name}</b>
              <svg width="90" height="12" aria-hidden="true">
                <line x1="0" x2="90" y1="6" y2="6" stroke="var(--color-rail)" />
                <line
                  x1="0"
                  x2={90 * c.likelihood}
                  y1="6"
                  y2="6"
                  stroke="var(--color-copper)"
                  strokeWidth="5"
                />
              </svg>
              <span className="num text-right">{figureOf(100 * c.likelihood, 0)} %</span>
              <span className="text-muted">
                {[...c.agreeing, ...c.against].slice(0, 3).join("; ")}
              </span>
            </li>
          ))}
        </ol>
      </section>
      <Locks antenna={antenna} detail={detail} />
    </div>
  );
}

const FIELD = "h-8 rounded-sm border border-tick bg-field px-2 text-dense";

function Locks({ antenna, detail }: { antenna: DishRow; detail: AimDetail }) {
  const job = useJob("locks");
  const { lock, remove } = useAimWrites(antenna.id);
  const rows = (job.locks ?? []).filter(
    (k) => k.antenna === antenna.id && (k.target ?? detail.aim.target) === detail.feed,
  );
  const next = detail.identity.following;
  const [frequency, setFrequency] = useState("");
  const [polarisation, setPolarisation] = useState<"H" | "V" | "L" | "R">("V");
  const [symbol, setSymbol] = useState("");
  const [identity, setIdentity] = useState("");
  const [refused, refuse] = useState<Refusal | null>(null);
  const add = async (locked: boolean) => {
    const said = await lock({
      frequency_mhz: frequency,
      polarisation,
      symbol_mbd: symbol,
      locked,
      identity,
      target: detail.feed,
    });
    refuse(said);
    if (!said) {
      setFrequency(emptied(frequency));
      setSymbol(emptied(symbol));
      setIdentity(emptied(identity));
    }
  };
  const submit = (e: FormEvent) => {
    e.preventDefault();
    void add(true);
  };
  const fillNext = () => {
    if (!next) return;
    setFrequency(String(next.frequency_mhz));
    setPolarisation(next.polarisation as "H");
    setSymbol(String(next.symbol_mbd));
  };
  return (
    <section aria-label="What locked">
      <Title note="quality and name decide; strength rises on any satellite">What locked</Title>
      <ul className="m-0 list-none border-line border-t p-0 text-dense">
        {rows.map((k) => (
          <li key={k.id} className="flex items-center gap-3 border-line border-b py-1">
            <b className="num">
              {figureOf(k.frequency_mhz, 0)} {k.polarisation}
            </b>
            <span className="num">{figureOf(k.symbol_mbd, 1)} MBd</span>
            <span>{k.locked ? "locks" : "does not lock"}</span>
            {k.identity && <span>name “{k.identity}”</span>}
            <RemoveButton
              mark
              label={`Remove ${k.frequency_mhz}`}
              remove={() => remove("locks", k.id)}
              className="ml-auto h-6 w-6"
            />
          </li>
        ))}
      </ul>
      <form onSubmit={submit} className="mt-2 flex flex-wrap items-center gap-2 text-dense">
        <label>
          <span className="sr-only">Frequency that was tried</span>
          <input
            className={`${FIELD} w-28`}
            placeholder="11597 MHz"
            required
            value={frequency}
            onChange={(e) => setFrequency(e.target.value)}
          />
        </label>
        <label>
          <span className="sr-only">Polarisation that was tried</span>
          <select
            className={FIELD}
            value={polarisation}
            onChange={(e) => setPolarisation(e.target.value as "H")}
          >
            {["V", "H", "L", "R"].map((p) => (
              <option key={p}>{p}</option>
            ))}
          </select>
        </label>
        <label>
          <span className="sr-only">Symbol rate that was tried</span>
          <input
            className={`${FIELD} w-24`}
            placeholder="22 MBd"
            required
            value={symbol}
            onChange={(e) => setSymbol(e.target.value)}
          />
        </label>
        <label>
          <span className="sr-only">Name that was read</span>
          <input
            className={`${FIELD} w-32`}
            placeholder="name, if read"
            value={identity}
            onChange={(e) => setIdentity(e.target.value)}
          />
        </label>
        <button type="submit" className="plain-button">
          It locks
        </button>
        <button
          type="button"
          className="plain-button"
          disabled={!frequency || !symbol}
          onClick={() => add(false)}
        >
          It does not
        </button>
        {next && (
          <button type="button" className="underline" onClick={fillNext}>
            fill in the next try
          </button>
        )}
      </form>
      <Why refused={refused} />
    </section>
  );
}
