import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

const NAMED = "evtro.device";

/** The name that this browser gave itself: its changes are its own to take back. */
function device(): string {
  try {
    const known = localStorage.getItem(NAMED);
    if (known) return known;
    const made = crypto.randomUUID();
    localStorage.setItem(NAMED, made);
    return made;
  } catch {
    return "";
  }
}

export const client = createClient<paths>({
  baseUrl: "",
  headers: { "Evtro-Device": device() },
});

/** The answers that the open page shows: what an opened or changed job comes back with. */
let looked: readonly string[] = [];
let lookedPart: string | null = null;
export function lookAt(keys: readonly AnswerKey[]) {
  looked = keys;
}
/** The part whose carriers are looked at, too. */
export function lookAtPart(part: string | null) {
  lookedPart = part;
}
client.use({
  onRequest({ request }) {
    const all = lookedPart ? [...looked, `part:${lookedPart}`] : looked;
    if (!request.headers.has("Evtro-Show")) request.headers.set("Evtro-Show", all.join(","));
  },
});

type Schemas = components["schemas"];
/** What a page needs was asked for before it is drawn: see `needs` in the shell. */
export type Answers = {
  [K in keyof Schemas["AnswersView"]]-?: NonNullable<Schemas["AnswersView"][K]>;
};
export type AnswerKey = Exclude<keyof Answers, "stations" | "outlets" | "part">;
export type JobView = Omit<Schemas["JobView"], "answers"> & { answers: Answers };
export type Job = Schemas["Job"];
export type Gauge = Schemas["Gauge"];
export type Quantity = Schemas["Quantity"];
export type Phrase = (string | Quantity)[];
export type Change = Schemas["Several-Input"]["changes"][number];
export type Problem = Schemas["Problem"];
export type Refusal = Schemas["Refusal"];
export type Step = Schemas["Step"];
export type State = Gauge["state"];
export type Unit = Gauge["unit"];
export type StationLine = Schemas["StationLine"];
export type Aim = Schemas["Aim"];
export type PartView = Schemas["PartView"];
export type PartPlace = Schemas["PartPlace"];
export type OutletView = Schemas["OutletView"];
export type PartDetail = Schemas["PartDetail"];
export type GroupGauge = Schemas["GroupGauge"];
export type Channel = Schemas["Channel"];
export type Catalogue = Schemas["Catalogue"];
export type PartType = Schemas["PartType"];
export type DishRow = Schemas["Dish"];
export type ArrayRow = Schemas["Array"];
export type Antenna = ({ kind: "dish" } & DishRow) | ({ kind: "array" } & ArrayRow);
export type Link = Schemas["Link"];
export type Obstruction = Schemas["Obstruction"];
export type Outlet = Schemas["Outlet"];
export type Target = Schemas["Target"];
export type Carrier = Schemas["Carrier"];
export type Conductor = Schemas["Conductor"];
export type Bond = Schemas["Bond"];
export type TargetSight = Schemas["TargetSight"];
export type Silhouette = Schemas["Silhouette"];
export type MastAnswer = Schemas["MastAnswer"];
export type ReadingRow = Schemas["ReadingRow"];
export type ReadingCell = Schemas["ReadingCell"];
export type Section = Schemas["Section"];
export type Term = Schemas["Term"];
export type Profile = Schemas["Profile"];
export type JobSummary = Schemas["JobSummary"];
export type JobList = Schemas["JobList"];
export type RemovedJob = Schemas["RemovedJob"];
export type SiteAnswer = Schemas["SiteAnswer"];
export type SunView = Schemas["SunView"];
export type Remedy = Schemas["Remedy"];
export type SpotLine = Schemas["SpotLine"];
export type SkyAnswer = Schemas["SkyAnswer"];
export type Neighbour = Schemas["Neighbour"];
export type Preview = Schemas["Preview"];
export type AimDetail = Schemas["AimDetail"];
export type PeakView = Schemas["PeakView"];
export type SearchPlan = Schemas["SearchPlan"];
export type RowView = Schemas["RowView"];
export type MotorView = Schemas["MotorView"];
export type TwoWayView = Schemas["TwoWayView"];
export type Identity = Schemas["Identity"];
export type LinkAnswer = Schemas["LinkAnswer"];
export type LinkRow = Schemas["LinkRow"];
export type Frequencies = Schemas["Frequencies"];
export type Spot = Schemas["Spot"];
export type FeedTry = Schemas["FeedTry"];
export type MeterView = Schemas["MeterView"];
export type Beam = Schemas["Beam"];
export type Stop = Schemas["Stop"];
export type Lock = Schemas["Lock"];
export type Sample = Schemas["Sample"];
export type Paths = Schemas["Paths"];
export type PathView = Schemas["PathView"];
export type MuxLine = Schemas["MuxLine"];
export type ArrayDetail = Schemas["ArrayDetail"];
export type TrialLine = Schemas["TrialLine"];
export type FrontEnd = Schemas["FrontEnd"];
export type ExpectedOutlet = Schemas["ExpectedOutlet"];
export type NearLine = Schemas["NearLine"];
export type Senders = Schemas["Senders"];
export type Tiles = Schemas["Tiles"];
export type Covering = Schemas["Covering"];
