import { BracketGauge } from "../../instruments/BracketGauge";
import { StateWord } from "../../instruments/StateMark";
import { Title } from "../../parts/table";
import { useView, useWrites } from "../../service/job";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";

/** The two cables of a terminal that transmits. */
export function PairCables() {
  const { select } = useWrites();
  const at = useShown();
  const pairs = useView((view) => view.answers.coax.pairs);
  if (!pairs.length) return null;
  return (
    <section aria-label="Terminal's pair of cables" className="mt-4 max-w-4xl text-dense">
      <Title>Terminal's pair of cables</Title>
      <ul className="m-0 list-none p-0">
        {pairs.map((p) => {
          const far = p.length.value == null ? null : shown(p.length.value, "m", 0, at);
          return (
            <li
              key={p.unit + p.sends}
              className="flex flex-wrap items-center gap-x-4 border-line border-b py-1"
            >
              <button type="button" className="link w-44 text-left" onClick={() => select(p.unit)}>
                {p.sends ? "transmit, up" : "receive, down"}
              </button>
              {far ? (
                <>
                  <span className="num w-16 text-right">
                    {far.figure} <span className="text-muted">{far.unit}</span>
                  </span>
                  <BracketGauge gauge={p.loss} width={90} />
                  <span className="num">
                    {(p.loss.value ?? 0).toFixed(1)} <span className="text-muted">dB</span> at{" "}
                    {p.at_mhz.toFixed(0)} <span className="text-muted">MHz</span>
                  </span>
                  <span className="num">
                    {p.loop_ohm.toFixed(1)} <span className="text-muted">Ω there and back</span>
                  </span>
                  <StateWord state={p.loss.state} />
                </>
              ) : (
                <span className="text-muted">not joined yet</span>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
