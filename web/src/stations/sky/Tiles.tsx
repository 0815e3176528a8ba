import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { FilePick, Why } from "../../instruments/Value";
import { client, type Refusal, type Tiles } from "../../service/client";
import { useJob } from "../../service/job";
import { figureOf } from "../../shell/units";

/** The elevation tiles at hand; one more is sent and the job's profiles are read from it. */
export function TileBar() {
  const { edit } = useJob();
  const cache = useQueryClient();
  const [refused, refuse] = useState<Refusal | null>(null);
  const [sending, setSending] = useState(false);
  const { data } = useQuery({
    queryKey: ["tiles"],
    queryFn: async () => (await client.GET("/api/tiles")).data as Tiles,
  });
  const keep = (tiles: Tiles) => cache.setQueryData(["tiles"], tiles);
  const again = () => edit((a) => client.POST("/api/jobs/{job_id}/terrain", { params: a }));
  const send = async (file: File) => {
    setSending(true);
    try {
      const response = await fetch(`/api/tiles?name=${encodeURIComponent(file.name)}`, {
        method: "POST",
        headers: { "content-type": "application/octet-stream" },
        body: file,
      });
      const said = await response.json();
      refuse(response.ok ? null : (said as Refusal));
      if (response.ok) {
        keep(said as Tiles);
        await again();
      }
    } finally {
      setSending(false);
    }
  };
  const drop = useMutation({
    mutationFn: async (key: string) =>
      (await client.DELETE("/api/tiles/{key}", { params: { path: { key } } })).data as Tiles,
    onSuccess: keep,
  });
  return (
    <section aria-label="Elevation tiles" className="text-[13px]">
      <p className="m-0 flex flex-wrap items-center gap-x-4 gap-y-1">
        <b>Elevation tiles</b>
        {(data?.tiles ?? []).map((t) => (
          <span key={t.id}>
            {t.name}{" "}
            <span className="num text-quiet">
              {figureOf(t.south, 2)} to {figureOf(t.north, 2)}°N, {figureOf(t.west, 2)} to{" "}
              {figureOf(t.east, 2)}°E, each {figureOf(t.step_m, 0)} m
            </span>{" "}
            <button
              type="button"
              className="underline"
              aria-label={`Remove ${t.name}`}
              onClick={() => drop.mutate(t.id)}
            >
              remove
            </button>
          </span>
        ))}
        {data && !data.tiles.length && <span>none: the ground is taken as a smooth earth.</span>}
        <FilePick label="Elevation tile" accept=".tif,.tiff,.hgt,.asc" onFile={send}>
          {sending ? "Reading it" : "Load a tile"}
        </FilePick>
        <span className="text-quiet">GeoTIFF, HGT or ESRI ASCII grid</span>
      </p>
      <Why refused={refused} />
    </section>
  );
}
