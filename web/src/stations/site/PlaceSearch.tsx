import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client } from "../../service/client";
import { useWrites } from "../edits";

/** Towns by name, offline; a stand-in for an address search. */
export function PlaceSearch() {
  const { site: write } = useWrites();
  const [query, setQuery] = useState("");
  const wanted = query.trim();
  const found = useQuery({
    queryKey: ["places", wanted],
    enabled: wanted.length >= 2,
    queryFn: async () =>
      (await client.GET("/api/places", { params: { query: { q: wanted } } })).data ?? [],
  });
  return (
    <div className="mt-2">
      <label className="text-quiet">
        or find the place{" "}
        <input
          value={query}
          onChange={(e) => setQuery(e.target.value)}
          className="dotted-field w-40 text-[13px]"
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
                  });
                  setQuery("");
                }}
              >
                {p.name}, {p.country}{" "}
                <span className="num text-quiet">
                  {p.latitude_deg.toFixed(2)} {p.longitude_deg.toFixed(2)}
                </span>
              </button>
            </li>
          ))}
          {found.isFetched && found.data?.length === 0 && (
            <li className="text-quiet">No town of that name. Type the coordinates.</li>
          )}
        </ul>
      )}
    </div>
  );
}
