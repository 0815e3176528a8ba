import { type FormEvent, useState } from "react";
import { go } from "../parts/go";
import { Why } from "../parts/Value";
import { client, type JobView, type Refusal } from "../service/client";
import { told } from "../service/refusals";
import { useProfiles } from "../service/settings";

const FIELD = "h-9 rounded-sm border border-tick bg-field px-2 text-body";

export function NewJob() {
  const profiles = useProfiles();
  const [name, setName] = useState("");
  const [place, setPlace] = useState("");
  const [profile, setProfile] = useState("europe");
  const [refusal, refuse] = useState<Refusal | null>(null);
  const make = async (e: FormEvent) => {
    e.preventDefault();
    try {
      const body = { name, place, profile };
      const made = (await told(client.POST("/api/jobs", { body }))) as JobView;
      go(`/jobs/${made.id}/site`);
    } catch (said) {
      refuse(said as Refusal);
    }
  };
  return (
    <form onSubmit={make} className="flex flex-wrap items-end gap-4">
      <label className="text-dense">
        <span className="block text-muted">New job</span>
        <input
          value={name}
          onChange={(e) => setName(e.target.value)}
          required
          maxLength={80}
          placeholder="Name"
          className={`w-56 ${FIELD}`}
        />
      </label>
      <label className="text-dense">
        <span className="block text-muted">Place</span>
        <input
          value={place}
          onChange={(e) => setPlace(e.target.value)}
          maxLength={80}
          className={`w-48 ${FIELD}`}
        />
      </label>
      <label className="text-dense">
        <span className="block text-muted">Practice</span>
        <select value={profile} onChange={(e) => setProfile(e.target.value)} className={FIELD}>
          {profiles.map((p) => (
            <option key={p.key} value={p.key}>
              {p.name}
            </option>
          ))}
        </select>
      </label>
      <button type="submit" className="copper-button h-9">
        Start the job
      </button>
      <Why refused={refusal} />
    </form>
  );
}
