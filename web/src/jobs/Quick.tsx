import { type FormEvent, useState } from "react";
import { go } from "../parts/go";
import { FilePick, Why } from "../parts/Value";
import { client, type JobView, type Refusal } from "../service/client";
import { isRefusal, send, told } from "../service/refusals";
import { useProfiles } from "../service/settings";
import { OuterFrame } from "../shell/OuterFrame";
import { useShown } from "../units/showing";
import { inUnit, shown, unitName } from "../units/units";

const FIELD = "h-12 w-full rounded-sm border border-tick bg-field px-3 text-lead";

/** Nothing but a place, a satellite and a dish; then the figures. */
export default function Quick() {
  const profiles = useProfiles();
  const at = useShown();
  const m = unitName("m", at);
  const [body, set] = useState({
    position: "",
    orbit: "",
    satellite: "",
    diameter_m: shown(0.6, "m", 1, at).figure,
    offset_deg: "25",
    kind: "tripod" as "tripod" | "vehicle",
    profile: "europe",
  });
  const [places, setPlaces] = useState<{ name: string; position: string }[]>([]);
  const [refusal, refuse] = useState<Refusal | null>(null);
  const make = async (e: FormEvent) => {
    e.preventDefault();
    const sent = { ...body, diameter_m: inUnit(body.diameter_m, "m", at) };
    try {
      const made = (await told(client.POST("/api/jobs/quick", { body: sent }))) as JobView;
      go(`/jobs/${made.id}/aim`);
    } catch (refused) {
      refuse(refused as Refusal);
    }
  };
  const take = async (chosen: File) => {
    const found = await send<{ name: string; position: string }[]>("/api/places/gpx", {
      method: "POST",
      headers: { "content-type": "application/gpx+xml" },
      body: await chosen.slice(0, 21_000_000).arrayBuffer(),
    });
    if (isRefusal(found)) return refuse(found);
    refuse(null);
    setPlaces(found);
    const first = found[0];
    if (first) set((b) => ({ ...b, position: first.position }));
  };
  const here = () =>
    navigator.geolocation?.getCurrentPosition(
      (p) =>
        set((b) => ({
          ...b,
          position: `${p.coords.latitude.toFixed(5)} ${p.coords.longitude.toFixed(5)}`,
        })),
      () =>
        refuse({
          type: "about:blank",
          title: "No position",
          status: 0,
          code: "no-position",
          field: "Position",
          detail: "this device does not tell where it is.",
          remedy: "Type it, or take it from a GPX file.",
          detail_said: [],
          remedy_said: [],
          choices: [],
          clashes: [],
        }),
    );
  const input = (
    key: "position" | "orbit" | "satellite" | "diameter_m" | "offset_deg",
    label: string,
    hint: string,
    needed = true,
  ) => (
    <label className="block text-body">
      <span className="mb-1 block font-semibold">{label}</span>
      <input
        className={FIELD}
        value={body[key]}
        placeholder={hint}
        required={needed}
        autoComplete="off"
        onChange={(e) => set({ ...body, [key]: e.target.value })}
      />
    </label>
  );
  return (
    <OuterFrame title="Quick aim">
      <form onSubmit={make} className="grid max-w-[560px] gap-4">
        {input("position", "Where are you", "68.14 N 15.42 E")}
        <div className="flex flex-wrap gap-3">
          <button type="button" className="plain-button min-h-11" onClick={here}>
            Ask this device
          </button>
          <FilePick label="GPX file" accept=".gpx" onFile={(chosen) => take(chosen)} tall>
            From a GPX file
          </FilePick>
          {places.length > 1 && (
            <label>
              <span className="sr-only">Place of the file</span>
              <select
                className={FIELD}
                value={body.position}
                onChange={(e) => set({ ...body, position: e.target.value })}
              >
                {places.map((p, i) => (
                  <option key={`${p.name}${i}`} value={p.position}>
                    {p.name}
                  </option>
                ))}
              </select>
            </label>
          )}
        </div>
        {input("orbit", "Which satellite, by its orbit", "16 E")}
        {input("satellite", "Its name, if you like", "Ptarmigan", false)}
        <div className="grid grid-cols-2 gap-4">
          {input("diameter_m", `Dish, ${m} wide`, shown(0.6, "m", 1, at).figure)}
          {input("offset_deg", "Offset angle", "25")}
        </div>
        <div className="grid grid-cols-2 gap-4">
          <label className="block text-body">
            <span className="mb-1 block font-semibold">It stands on</span>
            <select
              className={FIELD}
              value={body.kind}
              onChange={(e) => set({ ...body, kind: e.target.value as "tripod" })}
            >
              <option value="tripod">a tripod</option>
              <option value="vehicle">a vehicle's roof</option>
            </select>
          </label>
          <label className="block text-body">
            <span className="mb-1 block font-semibold">Practice</span>
            <select
              className={FIELD}
              value={body.profile}
              onChange={(e) => set({ ...body, profile: e.target.value })}
            >
              {profiles.map((p) => (
                <option key={p.key} value={p.key}>
                  {p.name}
                </option>
              ))}
            </select>
          </label>
        </div>
        <button type="submit" className="copper-button min-h-14 text-lead">
          Show the figures
        </button>
        <Why refused={refusal} />
      </form>
    </OuterFrame>
  );
}
