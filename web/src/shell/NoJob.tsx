import { useState } from "react";
import { Link } from "wouter";
import { go } from "../parts/go";
import { RefusalWords } from "../parts/RefusalWords";
import { Why } from "../parts/Value";
import { client, type Refusal } from "../service/client";
import { told } from "../service/refusals";
import { OuterFrame } from "./OuterFrame";

/** In place of a job that is not there, cannot be read, or cannot be worked out. */
export function NoJob({ id, refusal, again }: { id: string; refusal: Refusal; again: () => void }) {
  const [refused, refuse] = useState<Refusal | null>(null);
  const seen = refusal.revision;
  const at = { header: { "if-match": String(seen ?? 0) }, path: { job_id: id } };
  const run = async (call: () => Promise<unknown>, then: () => void) => {
    try {
      await call();
      then();
    } catch (said) {
      refuse(said as Refusal);
      // Somebody was at it meanwhile: the next try sees the newest state.
      if ((said as Refusal).revision != null) again();
    }
  };
  return (
    <OuterFrame title={refusal.status === 404 ? "No such job" : "This job does not open"}>
      <p role="alert" className="m-0 max-w-2xl">
        <b>{refusal.field || refusal.title}:</b> <RefusalWords it={refusal} />
      </p>
      <p className="m-0 mt-4 flex flex-wrap gap-3">
        {refusal.status !== 404 && (
          <button type="button" className="plain-button" onClick={again}>
            Open it again
          </button>
        )}
        {seen != null && (
          <>
            <a className="plain-button no-underline" href={`/api/jobs/${id}/export`} download>
              Export it as it is
            </a>
            <button
              type="button"
              className="plain-button"
              onClick={() =>
                run(() => told(client.POST("/api/jobs/{job_id}/undo", { params: at })), again)
              }
            >
              Undo the last change
            </button>
            <button
              type="button"
              className="plain-button"
              onClick={() =>
                run(
                  () => told(client.DELETE("/api/jobs/{job_id}", { params: at })),
                  () => go("/"),
                )
              }
            >
              Remove it
            </button>
          </>
        )}
        <Link to="/" className="plain-button no-underline">
          All jobs
        </Link>
      </p>
      <Why refused={refused} />
    </OuterFrame>
  );
}
