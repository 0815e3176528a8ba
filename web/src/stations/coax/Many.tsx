import { useState } from "react";
import { AddRow, NewChoice } from "../../parts/rows";
import type { Catalogue, Change } from "../../service/client";
import { useJob, useWrites } from "../../service/job";

const WHICH = [
  ["drops", "all drops"],
  ["rest", "all that feeds them"],
  ["every", "every cable"],
] as const;

/** Change many cables at once: one change, and one undo. */
export function Many({ catalogue }: { catalogue: Catalogue }) {
  const { change } = useWrites();
  const job = useJob("links", "outlets", "parts");
  const [which, setWhich] = useState<(typeof WHICH)[number][0]>("drops");
  const [floor, setFloor] = useState("");
  const cables = Object.values(catalogue.cables).map((c) => [c.key, c.short] as const);
  const [cable, setCable] = useState(cables[0]?.[0] ?? "");
  const outlets = new Map((job.outlets ?? []).map((o) => [o.id, o]));
  const floors = [...new Set([...outlets.values()].map((o) => o.floor ?? ""))].filter(Boolean);
  const plates = new Map((job.parts ?? []).map((p) => [p.id, p.outlet]));
  const links = (job.links ?? []).filter((k) => {
    const outlet = outlets.get(plates.get(k.to_part) ?? "");
    if (which !== "every" && Boolean(outlet) !== (which === "drops")) return false;
    return which !== "drops" || !floor || outlet?.floor === floor;
  });
  const other = links.filter((k) => k.cable !== cable);
  const add = () =>
    change({
      verb: "several",
      words: "change many cables",
      changes: other.map((k) => ({
        verb: "set",
        rows: "links",
        id: k.id,
        values: { cable },
        as_is: false,
      })) as Change[],
    } as Change);
  return (
    <AddRow
      button={`Change ${other.length} cable${other.length === 1 ? "" : "s"}`}
      add={async () => (other.length ? add() : null)}
    >
      <NewChoice label="Which cables" value={which} change={setWhich} options={WHICH} />
      {which === "drops" && floors.length > 1 && (
        <NewChoice
          label="On which floor"
          value={floor}
          change={setFloor}
          options={[["", "on every floor"], ...floors.map((f) => [f, `on ${f}`] as const)]}
        />
      )}
      <span>to</span>
      <NewChoice label="Cable for all of them" value={cable} change={setCable} options={cables} />
    </AddRow>
  );
}
