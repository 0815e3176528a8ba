import CommandBox from "../../parts/CommandBox";
import type { Refusal } from "../../service/client";
import { useWrites } from "../../service/job";
import { type Mode, useCandidates } from "./useCandidates";

const TITLES: Record<Mode, string> = {
  after: "Add after it: a part, an outlet, or connect to another",
  branch: "Branch on a free output: a part or an outlet",
  replace: "Replace by",
  copy: "Copy the whole branch to a free output",
  move: "Feed it and what hangs behind it from a free output",
};
const EMPTY: Record<Mode, string> = {
  after: "Nothing fits behind this part. Select the part that feeds it.",
  branch: "Nothing fits: this part has no output. Select the part that feeds it.",
  replace: "No other part fits in this place.",
  copy: "No free output to copy this branch to. Add a part with more outputs first.",
  move: "No free output to feed this branch from. Add a part with more outputs first.",
};

/** The list of what may be done at a part. */
export function CandidateBox({
  part,
  mode,
  onClose,
  onRefused,
  onTaken,
}: {
  part: string;
  mode: Mode;
  onClose: () => void;
  onRefused: (refusal: Refusal | null) => void;
  /** The part that has the focus after the change. */
  onTaken: (part: string) => void;
}) {
  const { make } = useWrites();
  const found = useCandidates(part, mode, async (change, follow) => {
    const done = await make(change);
    onRefused(done.refusal);
    onTaken((follow && done.named.$new) || part);
  });
  return (
    <CommandBox
      title={TITLES[mode]}
      commands={found.commands}
      onClose={onClose}
      waiting={found.waiting}
      empty={found.error?.detail ?? (found.waiting ? "Working it out" : EMPTY[mode])}
    />
  );
}
