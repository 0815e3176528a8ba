import { client } from "../service/client";
import { useJob } from "../service/job";

/** Writes that several stations share. Typed text goes as it was typed. */
export function useWrites() {
  const { edit } = useJob();
  const row = (
    at: { header: { "if-match": string }; path: { job_id: string } },
    row_id: string,
  ) => ({
    header: at.header,
    path: { ...at.path, row_id },
  });
  return {
    edit,
    row,
    site: (body: Record<string, string>) =>
      edit((at) => client.PATCH("/api/jobs/{job_id}/site", { params: at, body })),
    mast: (body: Record<string, string>) =>
      edit((at) => client.PATCH("/api/jobs/{job_id}/mast", { params: at, body: body as never })),
    earth: (body: Record<string, unknown>) =>
      edit((at) => client.PATCH("/api/jobs/{job_id}/earth", { params: at, body: body as never })),
    antenna: (id: string, body: Record<string, unknown>) =>
      edit((at) =>
        client.PATCH("/api/jobs/{job_id}/antennas/{row_id}", {
          params: row(at, id),
          body: body as never,
        }),
      ),
    head: (body: Record<string, string>) =>
      edit((at) => client.PATCH("/api/jobs/{job_id}", { params: at, body })),
    handover: (body: Record<string, unknown>) =>
      edit((at) =>
        client.PATCH("/api/jobs/{job_id}/handover", { params: at, body: body as never }),
      ),
  };
}
