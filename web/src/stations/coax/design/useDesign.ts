import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import {
  client,
  type DesignState,
  type Refusal,
  type Wish,
  type WishLine,
} from "../../../service/client";
import { useJobId, useWrites } from "../../../service/job";
import { refusalOf, told } from "../../../service/refusals";

/** A wish that is read by the service line by line, and the design that is searched for it. */
export function useDesign() {
  const { change } = useWrites();
  const jobId = useJobId();
  const [wish, setWish] = useState<Wish | null>(null);
  const [key, setKey] = useState<string | null>(null);
  const [refused, refuse] = useState<Refusal | null>(null);
  const at = { path: { job_id: jobId } };

  const read = useCallback(
    async (now: Wish | null, typed?: WishLine): Promise<Refusal | null> => {
      const said = await client.POST("/api/jobs/{job_id}/designs/options", {
        params: { path: { job_id: jobId } },
        body: { wish: now, typed: typed ?? null } as never,
      });
      if (said.error) return refusalOf(said.error, said.response);
      setWish(said.data as Wish);
      return null;
    },
    [jobId],
  );
  useEffect(() => {
    void read(null).then(refuse);
  }, [read]);

  const state = useQuery<DesignState, Refusal>({
    queryKey: ["design", jobId, key],
    queryFn: () =>
      told(
        client.GET("/api/jobs/{job_id}/designs/{key}", {
          params: { path: { job_id: jobId, key: key! } },
        }),
      ) as Promise<DesignState>,
    enabled: key !== null,
    refetchInterval: (query) => (query.state.data?.state === "working" ? 400 : false),
  });
  const begin = async () => {
    refuse(null);
    const said = await client.POST("/api/jobs/{job_id}/designs", {
      params: at,
      body: wish as never,
    });
    if (said.error) refuse(refusalOf(said.error, said.response));
    else setKey(said.data.key);
  };
  const stop = () =>
    key &&
    client.DELETE("/api/jobs/{job_id}/designs/{key}", { params: { path: { ...at.path, key } } });
  const take = async (plan: number) => {
    const said = await client.GET("/api/jobs/{job_id}/designs/{key}/plans/{plan}", {
      params: { path: { ...at.path, key: key!, plan } },
    });
    if (said.error) return refuse(refusalOf(said.error, said.response));
    const wrong = await change(said.data.change as never);
    refuse(wrong && typeof wrong === "object" && "remedy" in wrong ? (wrong as Refusal) : null);
  };
  return {
    wish,
    setWish,
    read,
    state,
    begin,
    stop,
    take,
    refused: refused ?? state.error,
    working: state.data?.state === "working",
  };
}
