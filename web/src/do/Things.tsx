import { useState } from "react";
import { StateMark } from "../instruments/StateMark";
import { Why } from "../parts/Value";
import type { InspectionItem, Refusal } from "../service/client";
import { Say, useShown } from "../units/showing";
import { inUnit, shown } from "../units/units";
import type { Put } from "./put";

type Send = (body: Put) => Promise<Refusal | null>;
type StateOf = NonNullable<InspectionItem["state"]>;

/** What a step looks at one by one: each fastener, each line of the kit. */
export function Things({ things, put }: { things: InspectionItem[]; put: Send }) {
  const [refused, refuse] = useState<Refusal | null>(null);
  const asked = things[0]!.good[things[0]!.good.length - 1] as StateOf;
  const left = things.filter((t) => !t.state);
  const send = async (body: Put) => refuse(await put(body));
  const all = () =>
    send({ seen: Object.fromEntries(left.map((t) => [t.key, { state: asked, note: "" }])) });
  return (
    <div>
      <ul aria-label="Look at each" className="m-0 list-none border-line border-t p-0">
        {things.map((t) => (
          <One key={t.key} thing={t} send={send} />
        ))}
      </ul>
      {left.length > 1 && (
        <button
          type="button"
          onClick={() => void all()}
          className="mt-2 min-h-14 w-full rounded-sm border-2 border-ink font-semibold"
        >
          {left.length === things.length ? "All" : `The other ${left.length}`} {asked}
        </button>
      )}
      <Why refused={refused} />
    </div>
  );
}

function One({ thing, send }: { thing: InspectionItem; send: (body: Put) => Promise<void> }) {
  const good = thing.state ? thing.good.includes(thing.state) : null;
  // Of four ways the good one comes first; the others when it is not so.
  const few = thing.states.length > 3;
  const [open, setOpen] = useState(false);
  const states = few && !open && good !== false ? thing.good : thing.states;
  const set = (state: StateOf) => send({ seen: { [thing.key]: { state, note: thing.note } } });
  return (
    <li className="border-line border-b py-1.5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="flex min-w-[150px] flex-1 items-center gap-2 text-body leading-5">
          {good !== null && <StateMark state={good ? "ok" : "fail"} />}
          <span>
            <Say it={thing.name} />
          </span>
        </span>
        <fieldset className="m-0 flex overflow-hidden rounded-sm border-2 border-ink p-0">
          <legend className="sr-only">
            <Say it={thing.name} />
          </legend>
          {states.map((s) => (
            <button
              key={s}
              type="button"
              aria-pressed={thing.state === s}
              onClick={() => void set(s)}
              className={`min-h-11 px-2 text-body ${thing.state === s ? "bg-ink font-bold text-sheet" : ""}`}
            >
              {s}
            </button>
          ))}
          {states !== thing.states && (
            <button type="button" className="min-h-11 px-2 text-body" onClick={() => setOpen(true)}>
              not so
            </button>
          )}
        </fieldset>
      </div>
      {thing.torque && thing.state === "tight" && <Torque thing={thing} send={send} />}
      {good === false && <Note thing={thing} send={send} />}
    </li>
  );
}

/** With which torque it was tightened, against what is asked. */
function Torque({ thing, send }: { thing: InspectionItem; send: (body: Put) => Promise<void> }) {
  const at = useShown();
  const torque = thing.torque!;
  const read = torque.value == null ? "" : shown(torque.value, "nm", 0, at).figure;
  const low = shown(torque.low ?? 0, "nm", 0, at);
  const high = shown(torque.high ?? 0, "nm", 0, at);
  const [typed, type] = useState<string | null>(null);
  const keep = async () => {
    if (typed === null) return;
    const torque_nm = inUnit(typed, "nm", at, low.unit);
    await send({ seen: { [thing.key]: { state: "tight", note: thing.note, torque_nm } } });
    type(null);
  };
  return (
    <label className="mt-1 flex items-center gap-2 text-body">
      <span className="flex-1 text-muted">
        by torque, asked {low.figure} to {high.figure}
      </span>
      {torque.value != null && <StateMark state={torque.state} />}
      <input
        value={typed ?? read}
        inputMode="decimal"
        placeholder="not read"
        onChange={(e) => type(e.target.value)}
        onBlur={() => void keep()}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
        className="num h-11 w-24 rounded-sm border border-tick bg-field px-2 text-right"
      />
      <span>{low.unit}</span>
    </label>
  );
}

/** What is wrong with it, in words. */
function Note({ thing, send }: { thing: InspectionItem; send: (body: Put) => Promise<void> }) {
  return (
    <label className="mt-1 flex items-center gap-2 text-body">
      <span className="text-muted">what is wrong</span>
      <input
        defaultValue={thing.note}
        maxLength={200}
        onBlur={(e) =>
          e.target.value !== thing.note &&
          void send({ seen: { [thing.key]: { state: thing.state!, note: e.target.value } } })
        }
        className="h-11 min-w-0 flex-1 rounded-sm border border-tick bg-field px-3"
      />
    </label>
  );
}
