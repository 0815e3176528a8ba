import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { client, lookAtPart, type PartDetail } from "../../service/client";
import { useJob } from "../../service/job";
import { told } from "../../service/refusals";

/** Every carrier at a part; until the newest is there, what it was before the last change. */
export function usePartDetail(part: string): PartDetail | undefined {
  const { view } = useJob();
  useEffect(() => {
    lookAtPart(part);
    return () => lookAtPart(null);
  }, [part]);
  return useQuery({
    queryKey: ["part", view.id, part, view.revision],
    queryFn: () =>
      told(
        client.GET("/api/jobs/{job_id}/parts/{row_id}/levels", {
          params: { path: { job_id: view.id, row_id: part } },
        }),
      ) as Promise<PartDetail>,
    placeholderData: (before, query) => (query?.queryKey[2] === part ? before : undefined),
  }).data;
}
