import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { FilePick, Why } from "../../parts/Value";
import { client, type Refusal } from "../../service/client";
import { isRefusal, send, told } from "../../service/refusals";
import { useStationWrites } from "../edits";

/** Towns by name, offline; a stand-in for an address search. */
export function PlaceSearch() {
  const { site: write } = useStationWrites();
  const [query, setQuery] = useState("");
  const wanted = query.trim();
  const found = useQuery({
    queryKey: ["places", wanted],
    enabled: wanted.length >= 2,
    queryFn: () => told(client.GET("/api/places", { params: { query: { q: wanted } } })),
  });
  return (
    <div className="mt-2">
      <label className="text-muted">
        or find the place{" "}
        <input
          value={query}
          onChange={(e) => setQuery(e.target.value)}
          className="dotted-field w-40 text-dense"
          placeholder="town, country code"
        />
      </label>
      {wanted.length >= 2 && (
        <ul className="m-0 mt-1 list-none p-0">
          {(found.data ?? []).map((p) => (
            <li key={`${p.name}${p.latitude_deg}`}>
              <button
                type="button"
                className="block w-full py-0.5 text-left hover:underline"
                onClick={async () => {
                  await write({
                    position_text: `${p.latitude_deg.toFixed(4)} ${p.longitude_deg.toFixed(4)}`,
                    // A town is good to its own extent, whatever its middle is written with.
                    position_good_m: `${Math.round(p.good_to_m)} m`,
                  });
                  setQuery("");
                }}
              >
                {p.name}, {p.country}{" "}
                <span className="num text-muted">
                  {p.latitude_deg.toFixed(2)} {p.longitude_deg.toFixed(2)}
                </span>
              </button>
            </li>
          ))}
          {found.isFetched && found.data?.length === 0 && (
            <li className="text-muted">No town of that name. Type the coordinates.</li>
          )}
        </ul>
      )}
      <Waypoints />
    </div>
  );
}

type Waypoint = { name: string; position: string; good_to_m: number };

/** A waypoint of a GPX file as the job's place. */
function Waypoints() {
  const { site: write } = useStationWrites();
  const [places, setPlaces] = useState<Waypoint[]>([]);
  const [refused, refuse] = useState<Refusal | null>(null);
  const read = async (chosen: File) => {
    const found = await send<Waypoint[]>("/api/places/gpx", {
      method: "POST",
      headers: { "content-type": "application/gpx+xml" },
      body: await chosen.slice(0, 21_000_000).arrayBuffer(),
    });
    refuse(isRefusal(found) ? found : null);
    setPlaces(isRefusal(found) ? [] : found);
  };
  return (
    <div className="mt-1">
      <FilePick label="GPX file for the site" accept=".gpx" onFile={read}>
        or a waypoint of a GPX file
      </FilePick>
      <ul className="m-0 mt-1 max-h-40 list-none overflow-y-auto p-0">
        {places.map((p, i) => (
          <li key={`${p.name}${i}`}>
            <button
              type="button"
              className="block w-full py-0.5 text-left hover:underline"
              onClick={async () => {
                await write({
                  position_text: p.position,
                  position_good_m: `${p.good_to_m} m`,
                });
                setPlaces([]);
              }}
            >
              {p.name} <span className="num text-muted">{p.position}</span>
            </button>
          </li>
        ))}
      </ul>
      <Why refused={refused} />
    </div>
  );
}
