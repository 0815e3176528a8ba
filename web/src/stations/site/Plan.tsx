import { Answer, AnswerStrip, Digits } from "../../instruments/Figure";
import { SitePlan } from "../../instruments/SitePlan";
import { JobRegion } from "../../parts/JobRegion";
import { PictureRegion } from "../../parts/PictureRegion";
import { Problems } from "../../parts/Problems";
import { Choice, NumberField, TextField } from "../../parts/Value";
import { useAnswers, useJob } from "../../service/job";
import { useProfiles } from "../../service/settings";
import { useShown } from "../../units/showing";
import { textOf } from "../../units/units";
import { useStationWrites } from "../edits";
import { Kit } from "./Kit";
import { Leave } from "./Leave";
import { Outlets } from "./Outlets";
import { PlaceSearch } from "./PlaceSearch";

export default function SitePlanFace() {
  const job = useJob("date", "name", "place", "profile", "site");
  const { site } = useAnswers("site");
  const { site: write, head } = useStationWrites();
  const profiles = useProfiles();
  const at = useShown();

  const s = job.site!;
  const profile = profiles.find((p) => p.key === job.profile);
  const line = (label: string, key: keyof typeof s, unit: "m" | "deg_true") => (
    <div className="flex items-baseline justify-between gap-3 border-line border-b py-1">
      <dt>{label}</dt>
      <dd className="m-0">
        <NumberField
          label={label}
          value={s[key] as number}
          unit={unit}
          commit={(t) => write({ [key]: t })}
        />
      </dd>
    </div>
  );
  const [lat, lon] = (site.position ?? "").split(/(?<=[NS]) /);
  return (
    <>
      <AnswerStrip>
        <Answer
          title="position"
          more={
            site.precision_m == null
              ? "type it, or find the place"
              : `good to ${textOf({ value: site.precision_m, unit: "m", digits: 0 }, at)} as typed`
          }
          state={site.state}
          wide
        >
          {site.position ? (
            <span className="num whitespace-nowrap text-figure leading-[26px]">
              {lat}
              <br />
              {lon}
            </span>
          ) : (
            <span className="text-figure text-muted">not known</span>
          )}
        </Answer>
        <Answer title={site.outlets === 1 ? "outlet" : "outlets"} more="that want a signal">
          <Digits text={String(site.outlets)} />
        </Answer>
        <Answer title="practice" more={`last word: local code. ${profile?.earth_school ?? ""}`}>
          <span className="text-figure leading-6">{profile?.name}</span>
        </Answer>
      </AnswerStrip>
      <div className="grid grid-cols-[1fr_340px] border-line border-b max-lg:grid-cols-1">
        <PictureRegion name="Site plan">
          <SitePlan answer={site} />
        </PictureRegion>
        <dl className="m-0 border-line border-l px-6 py-3 text-dense">
          <div className="border-line border-b pb-2">
            <dt className="mb-1 font-bold">Position</dt>
            <dd className="m-0">
              <TextField
                label="Position"
                value={s.position_text ?? ""}
                width={280}
                commit={(t) => write({ position_text: t })}
                placeholder="53.4805 N 9.9720 W"
              />
            </dd>
            {s.latitude_deg != null && (
              <dd className="m-0 mt-1 text-muted">
                good to{" "}
                <NumberField
                  label="Position good to"
                  value={s.position_good_m ?? site.precision_m}
                  unit="m"
                  digits={(s.position_good_m ?? site.precision_m ?? 0) < 10 ? 1 : 0}
                  width={64}
                  commit={(t) => write({ position_good_m: t })}
                />{" "}
                {s.position_good_m == null ? "as it was typed" : "as was said of it"}
              </dd>
            )}
            <dd className="m-0">
              <PlaceSearch />
            </dd>
          </div>
          {line("Ground above sea", "height_m", "m")}
          {line("Mount above ground", "mount_height_m", "m")}
          {line("Building length", "building_length_m", "m")}
          {line("Building width", "building_width_m", "m")}
          {line("Long side bearing", "building_bearing_deg", "deg_true")}
          {line("Building centre away", "building_offset_m", "m")}
          {line("Building centre bearing", "building_offset_bearing_deg", "deg_true")}
          {line("Cable entry away", "entry_distance_m", "m")}
          {line("Cable entry bearing", "entry_bearing_deg", "deg_true")}
          <div className="flex items-baseline justify-between gap-3 border-line border-b py-1">
            <dt>Practice</dt>
            <dd className="m-0">
              <Choice
                label="Practice"
                value={job.profile ?? "europe"}
                options={profiles.map((p) => [p.key, p.name] as const)}
                onChange={(key) => head({ profile: key })}
              />
            </dd>
          </div>
          <div className="flex items-baseline justify-between gap-3 border-line border-b py-1">
            <dt>Date, for the compass</dt>
            <dd className="m-0">
              <TextField
                label="Date"
                value={job.date}
                width={92}
                commit={(t) => head({ date: t })}
              />
            </dd>
          </div>
          <div className="flex items-baseline justify-between gap-3 border-line border-b py-1">
            <dt>Job</dt>
            <dd className="m-0">
              <TextField
                label="Job name"
                value={job.name}
                width={190}
                commit={(t) => head({ name: t })}
              />
            </dd>
          </div>
          <div className="flex items-baseline justify-between gap-3 border-line border-b py-1">
            <dt>Place</dt>
            <dd className="m-0">
              <TextField
                label="Place name"
                value={job.place ?? ""}
                width={190}
                commit={(t) => head({ place: t })}
              />
            </dd>
          </div>
        </dl>
      </div>
      <div className="grid grid-cols-1 gap-6 px-6 py-4 max-md:px-4">
        <JobRegion name="Outlets">
          <Outlets />
        </JobRegion>
        <JobRegion name="Permission">
          <Leave />
        </JobRegion>
        <Problems rows={site.problems} />
        <JobRegion name="Packing list">
          <Kit />
        </JobRegion>
      </div>
    </>
  );
}
