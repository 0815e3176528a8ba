import { Title } from "../../parts/table";
import { Choice, TextField } from "../../parts/Value";
import { useJob } from "../../service/job";
import { usePaths } from "../../service/pages";
import { useStationWrites } from "../edits";

const LEAVES = [
  ["unasked", "not asked yet"],
  ["asked", "asked, no answer yet"],
  ["given", "given"],
  ["not_needed", "not needed here"],
  ["refused", "refused"],
] as const;

/** Leave of owner or association, with the rule that protects small antennas as a question. */
export function Leave() {
  const job = useJob("site");
  const { site: write } = useStationWrites();
  const { data } = usePaths();
  const site = job.site!;
  return (
    <section aria-label="Leave to put it up" className="max-w-4xl text-dense">
      <Title>Leave to put it up</Title>
      <p className="m-0 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span>
          Owner, association, heritage:{" "}
          <Choice
            label="Leave"
            value={(site.consent ?? "unasked") as (typeof LEAVES)[number][0]}
            options={LEAVES}
            onChange={(consent) => write({ consent })}
          />
        </span>
        <TextField
          label="Who said so"
          value={site.consent_note ?? ""}
          width={420}
          placeholder="who said what, and when"
          commit={(consent_note) => write({ consent_note })}
        />
      </p>
      {data?.small_antenna && <p className="m-0 mt-1 text-muted">{data.small_antenna}</p>}
    </section>
  );
}
