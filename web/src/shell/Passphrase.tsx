import { type FormEvent, useState } from "react";
import { RefusalWords } from "../parts/RefusalWords";
import { client, type Refusal } from "../service/client";
import { readFailed } from "../service/queries";
import { cameIn, told } from "../service/refusals";

/** The passphrase page. It lies over whatever was open, so that nothing typed there is lost. */
export default function Passphrase() {
  const [passphrase, type] = useState("");
  const [refused, refuse] = useState<Refusal | null>(null);
  const comeIn = async (e: FormEvent) => {
    e.preventDefault();
    try {
      await told(client.POST("/api/session", { body: { passphrase } }));
    } catch (said) {
      refuse(said as Refusal);
      return;
    }
    cameIn();
    void readFailed();
  };
  return (
    <div
      role="dialog"
      aria-modal="true"
      aria-labelledby="entry-title"
      className="fixed inset-0 z-50 grid place-items-center bg-paper px-4"
    >
      <form onSubmit={comeIn} className="w-full max-w-sm border-copper border-l-[3px] pl-5">
        <h1 id="entry-title" className="m-0 mb-1 font-bold text-head">
          Evtro
        </h1>
        <p className="m-0 mb-4 text-muted">
          These jobs are open to the network. Type the passphrase that was set where Evtro runs.
        </p>
        <label className="block">
          <span className="block text-dense text-muted">Passphrase</span>
          <input
            type="password"
            // biome-ignore lint/a11y/noAutofocus: it is the only field of the page
            autoFocus
            value={passphrase}
            onChange={(e) => type(e.target.value)}
            autoComplete="current-password"
            required
            className="h-12 w-full rounded-sm border border-tick bg-field px-3 text-lead"
          />
        </label>
        {refused && (
          <p role="alert" className="m-0 mt-1 text-dense text-fail">
            <b>{refused.title}:</b> <RefusalWords it={refused} />
          </p>
        )}
        <button type="submit" className="copper-button mt-4 min-h-12 w-full text-lead">
          Come in
        </button>
      </form>
    </div>
  );
}
