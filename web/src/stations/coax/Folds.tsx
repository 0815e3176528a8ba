import { StateMark, WORD } from "../../instruments/StateMark";
import type { OutletView } from "../../service/client";
import { severity } from "../../units/severity";
import type { Geometry } from "./geometry";
import { Gauges } from "./nodes";
import type { Fold, useFolds } from "./useFolds";

/** A folded branch as one line: how many outlets, the worst of them, and what it is like. */
export function FoldRow({
  fold,
  g,
  lead,
  name,
  unfold,
}: {
  fold: Fold;
  g: Geometry;
  lead: number;
  name: string;
  unfold: () => void;
}) {
  const y = g.y(fold.row);
  const worst = worstOf(fold.outlets);
  const state = worst?.state ?? "unknown";
  const inside = fold.outlets.filter((o) => o.state === "ok" || o.state === "marginal").length;
  const words = `${fold.outlets.length} outlets`;
  return (
    <g>
      <line
        x1={lead}
        x2={g.tableX - 2}
        y1={y}
        y2={y}
        stroke="var(--color-copper)"
        strokeWidth="2"
        strokeDasharray="7 4"
      />
      <text x={g.tableX} y={y} fontSize="14" fontWeight="600">
        {name.length > 15 ? `${name.slice(0, 14)}…` : name}
      </text>
      <text x={g.tableX} y={y + 13} fontSize="12" style={{ fill: "var(--color-muted)" }}>
        {fold.like
          ? `${fold.outlets.length}, as ${fold.like.length > 12 ? `${fold.like.slice(0, 11)}…` : fold.like}`
          : words}
      </text>
      <Gauges groups={worst?.groups ?? []} g={g} y={y} />
      <g transform={`translate(${g.tableX + 350} ${y - 9})`}>
        <StateMark state={state} size={18} />
      </g>
      <text x={g.tableX + 373} y={y + 5} fontSize="13" fontWeight="600">
        {inside}
      </text>
      <rect
        role="button"
        tabIndex={0}
        aria-label={`Branch ${name}, ${words}, ${WORD[state]}: unfold`}
        x={g.tableX - 20}
        y={y - 15}
        width={g.width - g.tableX + 16}
        height="30"
        rx="2"
        fill="transparent"
        className="cursor-pointer"
        onClick={unfold}
        onKeyDown={(e) => {
          if (e.key === "Enter" || e.key === " ") {
            e.preventDefault();
            e.stopPropagation();
            unfold();
          }
        }}
      />
    </g>
  );
}

/** The outlet of a branch that is told for all: the gravest, of these the one with the least level. */
function worstOf(outlets: OutletView[]) {
  const least = (o: OutletView) => Math.min(...o.groups.map((x) => x.least_dbuv));
  return [...outlets].sort(
    (a, b) => severity(a.state) - severity(b.state) || least(a) - least(b),
  )[0];
}

/** What folds and unfolds, where a run has branches that are worth it. */
export function FoldLine({
  folds,
  selected,
}: {
  folds: ReturnType<typeof useFolds>;
  selected: string | null;
}) {
  const mine = folds.canFold(selected);
  if (!folds.foldsByItself && !mine && !folds.folds.length) return null;
  const small = "plain-button px-2! py-0.5! text-dense";
  return (
    <p className="m-0 flex flex-wrap items-baseline gap-2 pb-1 text-dense">
      {folds.folds.length > 0 && (
        <button type="button" className={small} onClick={folds.all}>
          Unfold all
        </button>
      )}
      {folds.foldsByItself && folds.folds.length === 0 && (
        <button type="button" className={small} onClick={folds.byItself}>
          Fold branches
        </button>
      )}
      {mine && (
        <button type="button" className={small} onClick={() => folds.toggle(selected!)}>
          {folds.folded.has(selected!) ? "Unfold" : "Fold"} what is behind it{" "}
          <span className="num text-muted">f</span>
        </button>
      )}
    </p>
  );
}
