import { useState } from "react";
import { Why } from "../parts/Value";
import type { Refusal } from "../service/client";

/** A step that cannot be done as it should be is left, and why; the sheet says so. */
export function Leave({
  why,
  leave,
}: {
  why: string;
  leave: (why: string) => Promise<Refusal | null>;
}) {
  const [open, setOpen] = useState(false);
  const [typed, type] = useState(why);
  const [refused, refuse] = useState<Refusal | null>(null);
  if (!open)
    return (
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="min-h-11 text-left text-body underline"
      >
        {why ? `Left as it is: ${why}` : "Leave it and say why"}
      </button>
    );
  return (
    <div className="mt-1">
      <label className="block text-body">
        <span className="text-muted">Left as it is, because</span>
        <input
          value={typed}
          maxLength={200}
          onChange={(e) => type(e.target.value)}
          className="h-11 w-full rounded-sm border border-tick bg-field px-3 text-lead"
        />
      </label>
      <div className="mt-2 flex gap-2.5">
        <button type="button" className="plain-button min-h-11" onClick={() => setOpen(false)}>
          Not now
        </button>
        <button
          type="button"
          disabled={!typed.trim()}
          className="plain-button min-h-11 flex-1"
          onClick={async () => refuse(await leave(typed.trim()))}
        >
          Leave it so
        </button>
      </div>
      <Why refused={refused} />
    </div>
  );
}
