import { StateMark, TEXT, WORD } from "../../instruments/StateMark";
import type { Change, Preview, Problem, Remedy } from "../../service/client";
import { useAnswers, useWrites } from "../../service/job";
import { sameChange } from "../../service/rows";
import { Say, useShown } from "../../units/showing";
import { shown } from "../../units/units";

/** Problems of the sky with every remedy that was found, as a choice that shows its effect first. */
export function Remedies({
  tried,
  onTry,
  preview,
}: {
  tried: Change | null;
  onTry: (change: Change | null) => void;
  preview?: Preview;
}) {
  const answers = useAnswers("sky");
  const { problems, remedies } = answers.sky;
  return (
    <section aria-label="Problems" className="border-line xl:border-l xl:pl-6">
      {problems.length === 0 && (
        <p className="m-0 text-dense text-muted">
          {answers.sky.targets.length
            ? "Every target stands clear, also later."
            : "Add a satellite or a transmitter; then what stands in its way is judged."}
        </p>
      )}
      {problems.map((p, i) => (
        <OneProblem
          key={`${p.code}${p.place}`}
          problem={p}
          remedies={remedies.filter((r) => p.code === "clearance" && r.target === p.ref)}
          tried={tried}
          onTry={onTry}
          preview={preview}
          first={i === 0}
        />
      ))}
    </section>
  );
}

function OneProblem({
  problem: p,
  remedies,
  tried,
  onTry,
  preview,
  first,
}: {
  problem: Problem;
  remedies: Remedy[];
  tried: Change | null;
  onTry: (change: Change | null) => void;
  preview?: Preview;
  first: boolean;
}) {
  const { change: take } = useWrites();
  const at = useShown();
  const chosen = remedies.find((r) => sameChange(r.change, tried));
  const figure = p.gauge?.value != null ? shown(p.gauge.value, p.gauge.unit, 1, at) : null;
  const row = "grid grid-cols-[48px_1fr] gap-x-1 text-dense leading-dense";
  return (
    <div className={first ? "" : "mt-4 border-line border-t pt-3"}>
      <h2 className="m-0 mb-1.5 flex items-center gap-2.5 font-bold text-body">
        <StateMark state={p.state} />
        <span>
          <Say it={p.title} />
          <span className="sr-only">, {WORD[p.state]}</span>
        </span>
      </h2>
      {figure && (
        <p className={`${row} m-0`}>
          <span className="text-muted">figure</span>
          <span>
            <b className={`num ${TEXT[p.state]}`}>{figure.figure}</b>
            {figure.unit.startsWith("°") ? figure.unit : ` ${figure.unit}`}
          </span>
        </p>
      )}
      <p className={`${row} m-0`}>
        <span className="text-muted">limit</span>
        <span>
          <Say it={p.limit} />, {p.origin}
        </span>
      </p>
      <div className={`${row} mt-0.5`}>
        <span className="text-muted">do</span>
        {remedies.length === 0 ? (
          <span>
            <Say it={p.remedy} />
          </span>
        ) : (
          <fieldset className="m-0 border-0 p-0">
            <legend className="sr-only">Remedies for {p.place}</legend>
            {remedies.map((r) => (
              <label
                key={JSON.stringify(r.change)}
                className="mb-1 flex min-h-6 cursor-pointer gap-2"
              >
                <input
                  type="radio"
                  name={`remedy-${p.ref}`}
                  checked={sameChange(r.change, tried)}
                  onChange={() => onTry(r.change)}
                  className="mt-0.5 h-4 w-4 shrink-0 accent-(--color-ink)"
                />
                <span>
                  <b>
                    <Say it={r.title} />
                  </b>
                  <span className="block text-muted">
                    <Say it={r.effect} />
                  </span>
                </span>
              </label>
            ))}
          </fieldset>
        )}
      </div>
      {chosen && (
        <div className="mt-1 flex items-start justify-between gap-3 text-dense text-muted">
          <span>
            Shown dashed in the picture
            {preview && <Elsewhere preview={preview} />}
          </span>
          <button
            type="button"
            className="copper-button shrink-0"
            onClick={() => take(chosen.change).then(() => onTry(null))}
          >
            <Say it={chosen.button} />
          </button>
        </div>
      )}
    </div>
  );
}

/** What the remedy changes at other stations. */
export function Elsewhere({ preview }: { preview: Preview }) {
  const answers = useAnswers("stations");
  const changed = preview.stations.filter((s) => {
    const now = answers.stations.find((x) => x.key === s.key);
    return (
      s.key !== "sky" &&
      s.key !== "handover" &&
      now &&
      (now.figure !== s.figure || now.state !== s.state)
    );
  });
  if (!changed.length) return <span className="block">Other stations stay as they are.</span>;
  return (
    <>
      {changed.map((s) => {
        const now = answers.stations.find((x) => x.key === s.key)!;
        return (
          <span key={s.key} className="block">
            {s.name}: {now.figure} to {s.figure}, <b className={TEXT[s.state]}>{WORD[s.state]}</b>
          </span>
        );
      })}
    </>
  );
}
