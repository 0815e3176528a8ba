import { StateWord } from "../../../instruments/StateMark";
import type { Design, PlanView } from "../../../service/client";
import { Say, useShown } from "../../../units/showing";
import { figureOf, shown } from "../../../units/units";

/** Why this plan: what else was tried, what proves it, what to buy; and to take it. */
export function Why({
  design,
  a,
  b,
  take,
}: {
  design: Design;
  a: PlanView;
  b: PlanView | null;
  take: (which: "a" | "b") => void;
}) {
  const at = useShown();
  const unit = design.priced ? "" : " points";
  return (
    <div className="flex flex-col gap-4 text-dense">
      <div className="flex items-start justify-between gap-2">
        <h2 className="m-0 font-bold text-head">Why A</h2>
        <StateWord state={a.inside === a.wanted && !design.ahead.length ? "ok" : "fail"} />
      </div>
      <p className="m-0">
        {a.words}: {a.inside} of {a.wanted} outlets in, the nearest{" "}
        <span className="num">{figureOf(a.reserve_db ?? 0, 1)}</span> dB inside of its limit.
      </p>
      {design.tried.length > 0 && (
        <section aria-label="What else was tried">
          <h3 className="m-0 font-bold text-dense">Nothing better does it</h3>
          <ul className="m-0 list-none p-0">
            {design.tried.map((t, i) => (
              <li key={i} className="border-line border-t py-1">
                {t.what}
                <span className="block text-muted">
                  <Say it={t.why} />
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="Proof">
        <h3 className="m-0 font-bold text-dense">Proof</h3>
        <p className="m-0 text-muted">
          <span className="num">{design.binaries}</span> yes-or-no choices,{" "}
          <span className="num">{design.cuts}</span> cuts from the full solution
          {a.bound != null && (
            <>
              ; bound <span className="num">{figureOf(a.bound, 1)}</span>
            </>
          )}
          , <span className="num">{figureOf(design.seconds, 1)}</span> s. Best of the trees that are
          allowed, on these places, from the parts at hand.
        </p>
      </section>
      <section aria-label="What to buy">
        <h3 className="m-0 font-bold text-dense">To buy for A</h3>
        <table className="w-full border-collapse">
          <tbody>
            {a.buy.map((line) => (
              <tr key={line.name} className="border-line border-t">
                <td className="num w-16 whitespace-nowrap py-1 pr-2 text-right">
                  {line.count ||
                    `${shown(line.length_m, "m", 0, at).figure} ${shown(0, "m", 0, at).unit}`}
                </td>
                <td>{line.name}</td>
                <td className="num text-right">{figureOf(line.price, 0)}</td>
              </tr>
            ))}
            {a.buy.length === 0 && (
              <tr>
                <td className="text-muted">Nothing: what is there does.</td>
              </tr>
            )}
          </tbody>
        </table>
        {!design.priced && (
          <p className="m-0 pt-1 text-muted">
            Prices in{unit}, typical of the class. Type your own at Parts.
          </p>
        )}
      </section>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="copper-button" onClick={() => take("a")}>
          Take plan A
        </button>
        {b && (
          <button type="button" className="plain-button" onClick={() => take("b")}>
            Take plan B
          </button>
        )}
      </div>
      <p className="m-0 text-muted">Undo gives the run back as it was.</p>
    </div>
  );
}
