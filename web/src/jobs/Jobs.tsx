import { useQueryClient } from "@tanstack/react-query";
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useDeferredValue, useLayoutEffect, useRef, useState } from "react";
import { Link } from "wouter";
import { WORD } from "../instruments/StateMark";
import { go } from "../parts/go";
import { RefusalWords } from "../parts/RefusalWords";
import { FilePick, Why } from "../parts/Value";
import type { JobSummary, JobView, Refusal } from "../service/client";
import { isRefusal, send } from "../service/refusals";
import { useShowing } from "../service/settings";
import { OuterFrame } from "../shell/OuterFrame";
import { ShowingProvider } from "../units/showing";
import { AloneThere } from "./AloneThere";
import { JobRow } from "./JobRow";
import { KeptHere } from "./KeptHere";
import { NewJob } from "./NewJob";
import { AskRemove, Removed } from "./Removing";
import { type Asked, PART, useJobList } from "./useJobList";

const ALL: Asked = { find: "", state: "", since: "", until: "" };
const GRID =
  "grid grid-cols-[minmax(160px,1.1fr)_290px_minmax(140px,1fr)_132px_116px] items-center gap-x-2 max-lg:grid-cols-1 max-lg:gap-y-1";

export default function Jobs() {
  const cache = useQueryClient();
  const [refusal, refuse] = useState<Refusal | null>(null);
  const [removing, remove] = useState<JobSummary | null>(null);
  const [gone, goneIs] = useState<string | null>(null);
  const [asked, ask] = useState(ALL);
  const take = async (chosen: File) => {
    const made = await send<JobView>("/api/jobs/import", {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: await chosen.slice(0, 21_000_000).arrayBuffer(),
    });
    if (isRefusal(made)) refuse(made);
    else go(`/jobs/${made.id}/site`);
  };
  const showing = useShowing();
  const again = () => {
    void cache.invalidateQueries({ queryKey: ["jobs"] });
    void cache.invalidateQueries({ queryKey: ["removed"] });
  };
  return (
    <OuterFrame
      title="Jobs"
      action={
        <>
          <Link to="/quick" className="plain-button mr-3 inline-block no-underline">
            Quick aim
          </Link>
          <FilePick label="Job file" accept=".json" onFile={take}>
            Import a job file
          </FilePick>
        </>
      }
    >
      <Why refused={refusal} />
      <AloneThere />
      <NewJob />
      <Search asked={asked} ask={ask} />
      {gone && (
        <p role="status" className="m-0 mt-3 text-dense">
          {gone} is removed. It can be taken back below for thirty days.
        </p>
      )}
      <ShowingProvider value={showing}>
        <List asked={asked} onRemove={remove} />
      </ShowingProvider>
      <Removed
        onBack={() => {
          goneIs(null);
          again();
        }}
      />
      {removing && (
        <AskRemove
          job={removing}
          onClose={() => remove(null)}
          onRemoved={() => {
            goneIs(removing.name);
            remove(null);
            again();
          }}
        />
      )}
    </OuterFrame>
  );
}

function List({ asked, onRemove }: { asked: Asked; onRemove: (job: JobSummary) => void }) {
  const calm = useDeferredValue(asked);
  const box = useRef<HTMLUListElement>(null);
  const [margin, setMargin] = useState(0);
  const [range, setRange] = useState<readonly [number, number]>([0, PART - 1]);
  const list = useJobList(calm, range[0], range[1]);
  const total = list.total ?? 0;
  const rows = useWindowVirtualizer({
    count: total,
    estimateSize: () => (window.innerWidth < 1024 ? 150 : 62),
    overscan: 6,
    scrollMargin: margin,
    initialRect: { width: window.innerWidth, height: window.innerHeight },
    onChange: (v) => {
      const items = v.getVirtualItems();
      const next = [items[0]?.index ?? 0, items[items.length - 1]?.index ?? 0] as const;
      setRange((now) =>
        Math.floor(now[0] / PART) === Math.floor(next[0] / PART) &&
        Math.floor(now[1] / PART) === Math.floor(next[1] / PART)
          ? now
          : next,
      );
    },
  });
  useLayoutEffect(() => setMargin(box.current?.offsetTop ?? 0), []);
  if (list.failed && list.total === undefined)
    return (
      <>
        <p role="alert" className="m-0 mt-6">
          <b>The list could not be read:</b> <RefusalWords it={list.failed} />
        </p>
        {list.failed.status === 0 && <KeptHere />}
      </>
    );
  const open = calm.find || calm.state || calm.since || calm.until;
  return (
    <section aria-label="Jobs, the newest change first">
      <div
        aria-hidden="true"
        className={`${GRID} mt-5 border-line border-b py-1.5 text-dense text-muted max-lg:hidden`}
      >
        <span className="font-semibold text-ink">Job</span>
        <span>its path, from Site to Handover</span>
        <span>next</span>
        <span className="pr-4 text-right">kept</span>
      </div>
      <ul
        ref={box}
        className="relative m-0 list-none p-0 text-dense"
        style={{ height: rows.getTotalSize() }}
      >
        {rows.getVirtualItems().map((item) => {
          const job = list.rows.get(item.index);
          return (
            <li
              key={item.key}
              ref={rows.measureElement}
              data-index={item.index}
              aria-setsize={total}
              aria-posinset={item.index + 1}
              className={`${GRID} absolute left-0 w-full border-line border-b py-3`}
              style={{ transform: `translateY(${item.start - margin}px)` }}
            >
              {job ? (
                <JobRow job={job} onRemove={() => onRemove(job)} />
              ) : (
                <div className="min-h-9 text-muted">being read</div>
              )}
            </li>
          );
        })}
      </ul>
      {list.total === 0 && (
        <p className="m-0 mt-3 text-muted">
          {open
            ? "No job is like this. Take a word or a day away."
            : "No jobs yet. Name the first one above."}
        </p>
      )}
      {list.waiting > 0 && (
        <p role="status" className="m-0 mt-2 text-dense text-muted">
          {list.waiting} still being worked out.
        </p>
      )}
    </section>
  );
}

/** Finds jobs by name and place, the worst state of their stations, and their day. */
function Search({ asked, ask }: { asked: Asked; ask: (asked: Asked) => void }) {
  const field = "h-8 rounded-sm border border-tick bg-field px-2 text-dense";
  return (
    <form
      aria-label="Find jobs"
      className="mt-6 flex flex-wrap items-end gap-x-4 gap-y-2 text-dense"
      onSubmit={(e) => e.preventDefault()}
    >
      <label>
        <span className="block text-muted">Find by name or place</span>
        <input
          type="search"
          value={asked.find}
          maxLength={120}
          onChange={(e) => ask({ ...asked, find: e.target.value })}
          className={`w-56 ${field}`}
        />
      </label>
      <label>
        <span className="block text-muted">Worst state</span>
        <select
          value={asked.state}
          onChange={(e) => ask({ ...asked, state: e.target.value })}
          className={field}
        >
          <option value="">any</option>
          <option value="fail">{WORD.fail}</option>
          <option value="marginal">{WORD.marginal}</option>
          <option value="unknown">{WORD.unknown}</option>
          <option value="ok">{WORD.ok}</option>
          <option value="broken">does not open</option>
        </select>
      </label>
      <label>
        <span className="block text-muted">From day</span>
        <input
          type="date"
          value={asked.since}
          onChange={(e) => ask({ ...asked, since: e.target.value })}
          className={field}
        />
      </label>
      <label>
        <span className="block text-muted">To day</span>
        <input
          type="date"
          value={asked.until}
          onChange={(e) => ask({ ...asked, until: e.target.value })}
          className={field}
        />
      </label>
      {(asked.find || asked.state || asked.since || asked.until) && (
        <button type="button" className="plain-button h-8" onClick={() => ask(ALL)}>
          All jobs
        </button>
      )}
    </form>
  );
}
