import { type ReactNode, useState } from "react";
import type { Refusal } from "../service/client";
import { JobRegion } from "./JobRegion";
import { RefusalWords } from "./RefusalWords";

/** A section that is worked out when somebody opens it. */
export function Opens({
  label,
  title,
  hint,
  children,
}: {
  label: string;
  title: string;
  hint: string;
  children: () => ReactNode;
}) {
  const [open, show] = useState(false);
  return (
    <section aria-label={label} className="mt-4 max-w-4xl text-dense">
      <h2 className="m-0 border-line border-b pb-1.5 text-body">
        <button
          type="button"
          aria-expanded={open}
          className="font-bold"
          onClick={() => show(!open)}
        >
          {open ? "−" : "+"} {title}
        </button>{" "}
        <span className="text-dense text-muted">{hint}</span>
      </h2>
      {open && <JobRegion name={title}>{children()}</JobRegion>}
    </section>
  );
}

/** What stands while an answer is on its way, or in its place when it was refused. */
export function Waiting({ error }: { error: Refusal | null }) {
  return error ? (
    <p role="alert" className="m-0">
      <RefusalWords it={error} />
    </p>
  ) : (
    <p className="m-0 text-muted">Working it out</p>
  );
}
