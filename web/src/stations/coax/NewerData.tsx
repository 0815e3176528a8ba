import { useAnswers, useWrites } from "../../service/job";

/** What the workshop has otherwise than this job carries it: the job keeps its own until told. */
export function NewerData() {
  const { change } = useWrites();
  const answers = useAnswers("stock");
  const { newer, take_all: all } = answers.stock;
  if (!all || newer.length === 0) return null;
  return (
    <section aria-label="Newer data" className="mt-4 border-line border-t pt-3 text-dense">
      <h2 className="m-0 mb-1 font-bold text-body">
        The workshop has other data than this job was planned with
      </h2>
      <ul className="m-0 mb-2 list-none p-0">
        {newer.map((n) => (
          <li key={n.rows + n.key} className="flex flex-wrap items-baseline gap-x-3 py-0.5">
            <span className="font-semibold">{n.name}</span>
            <span className="text-muted">
              here of <span className="num">{n.carried}</span>, there of{" "}
              <span className="num">{n.of_date}</span>: {n.origin}
            </span>
            <button
              type="button"
              className="plain-button px-2! py-0.5!"
              onClick={() => change(n.change)}
            >
              Take this
            </button>
          </li>
        ))}
      </ul>
      {newer.length > 1 && (
        <button type="button" className="plain-button px-2! py-1!" onClick={() => change(all)}>
          Take all
        </button>
      )}
    </section>
  );
}
