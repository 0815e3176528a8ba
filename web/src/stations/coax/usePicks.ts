import type { Catalogue, Refusal } from "../../service/client";
import { useJob } from "../../service/job";
import type { Command } from "../../shell/CommandBox";

/** What may be put behind, branched from, or put in place of a part. */
export function usePicks(
  catalogue: Catalogue | undefined,
  part: string | null,
  mode: "after" | "branch" | "replace" | "copy" | "move" | null,
  say: (refusal: Refusal | null) => void,
): Command[] {
  const { view, select, change } = useJob();
  if (!catalogue || !part || !mode) return [];
  const here = view.answers.coax.parts.find((p) => p.id === part);
  const all = Object.values(catalogue.parts);
  const newest = () => {
    const ids = (view.job.parts ?? []).map((p) => Number(p.id.slice(1)));
    return `p${Math.max(0, ...ids) + 1}`;
  };
  const add =
    (type: string, outlet: string | null, port: number | null, length: string) => async () => {
      const id = newest();
      const said = await change({
        verb: "insert",
        type,
        after: part,
        outlet,
        port,
        cable: "rg6",
        length_m: length,
      });
      say(said);
      if (!said && type !== "plate" && type !== "terminator") select(id);
    };
  if (mode === "replace") {
    return all
      .filter(
        (t) =>
          (t.inputs === 0) === ["antenna", "lnb", "line"].includes(here?.kind ?? "") &&
          // An outlet keeps its plate: another kind of it, such as one from which the line goes on.
          (t.draws_as === "plate") === (here?.kind === "plate"),
      )
      .map((t) => ({
        name: t.name,
        hint: t.draws_as,
        run: async () => {
          const said = await change({ verb: "replace", part, type: t.key });
          say(said);
        },
      }));
  }
  if (mode === "copy" || mode === "move") {
    return view.answers.coax.parts
      .filter((p) => p.id !== part && p.free_outputs.length > 0)
      .flatMap((p) =>
        p.free_outputs.map((port) => ({
          name: `${mode === "copy" ? "Once more at" : "Lead it from"}: ${p.name}, output ${port + 1}`,
          hint: p.type_name,
          run: async () => {
            const id = newest();
            const said = await change(
              mode === "copy"
                ? { verb: "copy", part, after: p.id, port, floor: "" }
                : { verb: "lead", part, after: p.id, port },
            );
            say(said);
            if (!said && mode === "copy") select(id);
          },
        })),
      );
  }
  const free = here?.free_outputs ?? [];
  const port = mode === "branch" ? (free[0] ?? null) : null;
  const placed = new Set((view.job.parts ?? []).map((p) => p.outlet));
  const outlets = (view.job.outlets ?? [])
    .filter((o) => !placed.has(o.id))
    .map((o) => ({
      name: `Outlet: ${o.name}`,
      hint: o.floor ?? "",
      run: add("plate", o.id, port, "10"),
    }));
  const devices = all
    .filter((t) => t.inputs !== 0 && t.draws_as !== "plate")
    .map((t) => ({
      name: t.name,
      hint: t.draws_as.replace("_", " "),
      run: add(t.key, null, port, "1"),
    }));
  const joins = view.answers.coax.parts
    .filter((p) => p.id !== part && p.free_inputs.length > 0)
    .map((p) => ({
      name: `Join to: ${p.name}`,
      hint: `${p.free_inputs.length} free`,
      run: async () => {
        const said = await change({
          verb: "join",
          part,
          to: p.id,
          cable: "rg6",
          length_m: "1",
        });
        say(said);
      },
    }));
  return [...outlets, ...joins, ...devices];
}
