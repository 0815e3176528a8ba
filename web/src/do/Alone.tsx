import { useState } from "react";
import { StateWord } from "../instruments/StateMark";
import { Why } from "../parts/Value";
import { type AloneView, client, type Refusal, type Step, type WatchView } from "../service/client";
import { useJob, useJobId } from "../service/job";
import { network } from "../service/network";
import { refusalOf } from "../service/refusals";
import { tellSite, useSite } from "../service/site";
import { useClock } from "./clock";
import { thisIs, whoIsHere } from "./put";

/** Whoever works alone at height gives word; the others see when none came. */
export function Alone({ step }: { step: Step }) {
  const job = useJob("mast");
  const jobId = useJobId();
  const { watch, at } = useSite(jobId);
  const alone = watch?.alone ?? null;
  if (alone) return <Due alone={alone} at={at} />;
  const asked = step.high && (job.mast?.crew ?? 1) === 1;
  return asked && watch ? <Begin every={watch.every_min} /> : null;
}

type Answer = Promise<{ data?: unknown; error?: unknown; response: Response }>;

function useTell() {
  const jobId = useJobId();
  const [refused, refuse] = useState<Refusal | null>(null);
  const params = { path: { job_id: jobId } };
  const tell = async (asked: Answer) => {
    const { data, error, response } = await asked.catch(() => ({
      data: undefined,
      error: undefined,
      response: new Response(null, { status: 503 }),
    }));
    if (data) tellSite(jobId, { watch: data as WatchView });
    refuse(data ? null : refusalOf(error, response));
  };
  return { tell, refused, params };
}

function Begin({ every }: { every: number }) {
  const [open, setOpen] = useState(false);
  const [who, setWho] = useState(whoIsHere);
  const [call, setCall] = useState("");
  const [minutes, setMinutes] = useState(String(every));
  const { tell, refused, params } = useTell();
  if (!open)
    return (
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="mb-2 min-h-11 w-full border border-marginal px-3 text-left text-body"
      >
        Alone up there? <span className="underline">Say when you give word</span>
      </button>
    );
  const begin = () => {
    thisIs(who);
    return tell(
      client.PUT("/api/jobs/{job_id}/check-ins", {
        params,
        // As it was typed: the program reads it, or says why not.
        body: { who, call, every_min: (minutes.trim() || every) as number },
      }),
    );
  };
  const field = (label: string, value: string, set: (text: string) => void, hint: string) => (
    <label className="flex items-center gap-3">
      <span className="w-28 text-muted">{label}</span>
      <input
        value={value}
        onChange={(e) => set(e.target.value)}
        placeholder={hint}
        className="h-11 min-w-0 flex-1 rounded-sm border border-tick bg-field px-3"
      />
    </label>
  );
  return (
    <div className="mb-2 grid gap-2 border-2 border-marginal px-3 py-2 text-body">
      <b>Working alone</b>
      {field("Who", who, setWho, "name")}
      {field("Who to call", call, setCall, "number, if no word comes")}
      {field("Word every", minutes, setMinutes, "minutes")}
      <div className="flex gap-2.5">
        <button type="button" className="plain-button min-h-11" onClick={() => setOpen(false)}>
          Not alone
        </button>
        <button
          type="button"
          disabled={!who.trim()}
          className="copper-button min-h-11 flex-1"
          onClick={() => void begin()}
        >
          I go up alone
        </button>
      </div>
      <Why refused={refused} />
    </div>
  );
}

/** By when a word is due, and what to do when none comes. */
function Due({ alone, at }: { alone: AloneView; at: number }) {
  const now = useClock(5000);
  const down = network((s) => s.down);
  const { tell, refused, params } = useTell();
  // The program's clock counts; this device's own may be wrong.
  const left = Math.round((alone.left_s - (now - at) / 1000) / 60);
  const state = left < 0 ? "fail" : left < 5 ? "marginal" : "ok";
  return (
    <section
      aria-label="Working alone"
      aria-live={state === "fail" ? "assertive" : "polite"}
      className={`mb-2 grid gap-1 border-2 px-3 py-2 text-body ${state === "fail" ? "border-fail" : "border-marginal"}`}
    >
      <p className="m-0 flex items-baseline justify-between gap-3">
        <span>
          <b>{alone.who} is alone.</b>{" "}
          {left < 0 ? `No word for ${-left} min beyond the time.` : `Word due in ${left} min.`}
        </span>
        <StateWord state={state} />
      </p>
      {state === "fail" && (
        <p className="m-0">
          {alone.do} {alone.call && <b>{alone.call}</b>}
        </p>
      )}
      {down && <p className="m-0">No network: nobody hears your word here. Call instead.</p>}
      <div className="flex gap-2.5">
        <button
          type="button"
          className="copper-button min-h-11 flex-1"
          onClick={() => void tell(client.POST("/api/jobs/{job_id}/check-ins", { params }))}
        >
          All is well
        </button>
        <button
          type="button"
          className="plain-button min-h-11"
          onClick={() => void tell(client.DELETE("/api/jobs/{job_id}/check-ins", { params }))}
        >
          Down again
        </button>
      </div>
      <Why refused={refused} />
    </section>
  );
}
