import { RefusalWords } from "../parts/RefusalWords";
import { useView, useWriteState, useWrites } from "../service/job";
import { toldAbove } from "../service/refusals";

/** Why something was not saved, where no field says it, and the way to send it again. */
export function RefusalBar() {
  const refusal = useWriteState((s) => s.refusal);
  const waiting = useWriteState((s) => s.unsent.length > 0);
  const { again, dismiss } = useWrites();
  if (!refusal || !toldAbove(refusal)) return null;
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-fail border-b-2 px-6 py-2"
    >
      <span>
        <b>{refusal.field || `Not kept. ${refusal.title}`}:</b> <RefusalWords it={refusal} />
      </span>
      <span className="ml-auto flex gap-3">
        {waiting && (
          <button type="button" className="copper-button h-8" onClick={() => void again()}>
            {refusal.status === 409 ? "Send mine again" : "Try again"}
          </button>
        )}
        <button type="button" className="plain-button" onClick={dismiss}>
          Leave it
        </button>
      </span>
    </div>
  );
}

/** How the service read what was typed, where it could be read in two ways. */
export function Notes() {
  const notes = useView((view) => view.told);
  if (!notes.length) return null;
  return (
    <p role="status" className="m-0 border-line border-b bg-paper px-6 py-1.5 text-dense">
      <b>Read so:</b> {notes.join(" ")}
    </p>
  );
}
