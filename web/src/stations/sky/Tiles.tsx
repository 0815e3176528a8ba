import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { RemoveButton } from "../../parts/rows";
import { FilePick, Why } from "../../parts/Value";
import { client, type Refusal, type Tiles } from "../../service/client";
import { useWrites } from "../../service/job";
import { isRefusal, send, told } from "../../service/refusals";
import { Say } from "../../units/showing";
import { figureOf } from "../../units/units";

/** The elevation tiles at hand; one more is sent and the job's profiles are read from it. */
export function TileBar() {
  const { edit } = useWrites();
  const cache = useQueryClient();
  const [refused, refuse] = useState<Refusal | null>(null);
  const [sending, setSending] = useState<AbortController | null>(null);
  const { data } = useQuery({
    queryKey: ["tiles"],
    queryFn: () => told(client.GET("/api/tiles")) as Promise<Tiles>,
  });
  const keep = (tiles: Tiles) => cache.setQueryData(["tiles"], tiles);
  const again = () => edit((a) => client.POST("/api/jobs/{job_id}/terrain", { params: a }));
  const take = async (file: File) => {
    const stop = new AbortController();
    setSending(stop);
    const said = await send<Tiles>(`/api/tiles?name=${encodeURIComponent(file.name)}`, {
      method: "POST",
      headers: { "content-type": "application/octet-stream" },
      body: file,
      signal: stop.signal,
    });
    setSending(null);
    if (stop.signal.aborted) return;
    refuse(isRefusal(said) ? said : null);
    if (!isRefusal(said)) {
      keep(said);
      await again();
    }
  };
  const drop = useMutation({
    mutationFn: (key: string) =>
      told(client.DELETE("/api/tiles/{key}", { params: { path: { key } } })) as Promise<Tiles>,
    onSuccess: keep,
    onError: (error) => refuse(error as unknown as Refusal),
  });
  return (
    <section aria-label="Elevation tiles" className="text-dense">
      <p className="m-0 flex flex-wrap items-center gap-x-4 gap-y-1">
        <b>Elevation tiles</b>
        {(data?.tiles ?? []).map((t) => (
          <span key={t.id}>
            {t.name}{" "}
            <span className="num text-muted">
              {figureOf(t.south, 2)} to {figureOf(t.north, 2)}°N, {figureOf(t.west, 2)} to{" "}
              {figureOf(t.east, 2)}°E, each <Say it={[{ value: t.step_m, unit: "m", digits: 0 }]} />
            </span>{" "}
            <RemoveButton label={`Remove ${t.name}`} remove={() => drop.mutate(t.id)} />
          </span>
        ))}
        {data && !data.tiles.length && <span>none: the ground is taken as a smooth earth.</span>}
        <FilePick label="Elevation tile" accept=".tif,.tiff,.hgt,.asc" onFile={take}>
          {sending ? "Reading it" : "Load a tile"}
        </FilePick>
        {sending && (
          <button type="button" className="plain-button" onClick={() => sending.abort()}>
            Stop
          </button>
        )}
        <span className="text-muted">GeoTIFF, HGT or ESRI ASCII grid</span>
      </p>
      <Why refused={refused} />
    </section>
  );
}
