import { useQuery } from "@tanstack/react-query";
import { client, type PartDetail } from "../../service/client";
import { useJobId, usePartShown, useView } from "../../service/job";
import { told } from "../../service/refusals";

/** Every carrier at a part; until the newest is there, what it was before the last change. */
export function usePartDetail(part: string | null): PartDetail | undefined {
  const jobId = useJobId();
  const revision = useView((view) => view.revision);
  usePartShown(part);
  return useQuery({
    queryKey: ["part", jobId, part, revision],
    queryFn: () =>
      told(
        client.GET("/api/jobs/{job_id}/parts/{row_id}/levels", {
          params: { path: { job_id: jobId, row_id: part ?? "" } },
        }),
      ) as Promise<PartDetail>,
    enabled: part !== null,
    placeholderData: (before, query) => (query?.queryKey[2] === part ? before : undefined),
  }).data;
}
