import { useQuery } from "@tanstack/react-query";
import type { Command } from "../../parts/CommandBox";
import { type Change, client, type NetworkCandidate, type Refusal } from "../../service/client";
import { useJobId, useView } from "../../service/job";
import { told } from "../../service/refusals";

export type Mode = "after" | "branch" | "replace" | "copy" | "move";

/** What may be added behind a part, put in its place or joined to it: the service says what fits. */
export function useCandidates(
  part: string,
  mode: Mode,
  take: (change: Change, follow: boolean) => Promise<void>,
): { commands: Command[]; waiting: boolean; error: Refusal | null } {
  const id = useJobId();
  const revision = useView((view) => view.revision);
  const found = useQuery<NetworkCandidate[], Refusal>({
    queryKey: ["candidates", id, revision, part, mode],
    queryFn: () =>
      told(
        client.GET("/api/jobs/{job_id}/parts/{row_id}/candidates", {
          params: { path: { job_id: id, row_id: part }, query: { mode } },
        }),
      ),
  });
  const commands = (found.data ?? []).map((c) => ({
    name: nameOf(c, mode),
    hint: c.hint.replace("_", " "),
    run: () => void take(c.change as Change, c.follow),
  }));
  return { commands, waiting: found.isPending, error: found.error };
}

function nameOf(c: NetworkCandidate, mode: Mode): string {
  if (c.kind === "outlet") return `Outlet: ${c.name}`;
  if (c.kind === "join") return `Connect to: ${c.name}`;
  if (c.kind === "part") return c.name;
  const output = `${c.name}, output ${(c.port ?? 0) + 1}`;
  return mode === "copy" ? `Copy to: ${output}` : `Feed from: ${output}`;
}
