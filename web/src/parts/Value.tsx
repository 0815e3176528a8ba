import { type ReactNode, useId, useRef, useState, useSyncExternalStore } from "react";
import { useOpenJob } from "../service/job";
import { sendAgain } from "../service/refusals";
import { useShown } from "../units/showing";
import { inUnit, shown, unitName } from "../units/units";
import type { Change, Refusal, Unit } from "../wire/types";
import { RefusalWords } from "./RefusalWords";

type Commit = (text: string) => Promise<Refusal | null>;
/** What a field does with the typed text: `commit` writes it; `change` gives the one change that it stands for,
 *  which the service computes ahead while somebody types and carries out on Enter. */
type Writes =
  | { commit: Commit; change?: undefined }
  | { change: (text: string) => Change; commit?: undefined };

/**
 * A figure edited in place. What is typed goes to the service as text, with the unit in force
 * behind it; when it is refused, the text stays and the reason stands below it.
 */
export function NumberField({
  label,
  value,
  unit,
  digits = 1,
  width = 64,
  showUnit = true,
  placeholder = "",
  big,
  hideLabel = true,
  ...writes
}: Writes & {
  label: string;
  value: number | null | undefined;
  unit: Unit;
  digits?: number;
  width?: number;
  showUnit?: boolean;
  placeholder?: string;
  big?: boolean;
  hideLabel?: boolean;
}) {
  const at = useShown();
  const now = value == null ? null : shown(value, unit, digits, at);
  const name = now?.unit ?? unitName(unit, at);
  const figure = now?.figure.replace("−", "-") ?? "";
  // The unit beside the field is the one in which a bare figure is read.
  const { commit, change } = writes;
  const withUnit: Writes = change
    ? { change: (text) => change(inUnit(text, unit, at, name)) }
    : { commit: (text) => commit(inUnit(text, unit, at, name)) };
  return (
    <TextField
      label={`${label}${name ? `, ${name}` : ""}`}
      hideLabel={hideLabel}
      value={figure}
      width={width}
      {...withUnit}
      suffix={showUnit ? name : ""}
      placeholder={placeholder}
      number
      big={big}
    />
  );
}

export function TextField({
  label,
  value,
  width,
  suffix = "",
  placeholder = "",
  number,
  big,
  hideLabel = true,
  clearAfter,
  commit,
  change,
}: Writes & {
  label: string;
  value: string;
  width?: number | string;
  suffix?: string;
  placeholder?: string;
  number?: boolean;
  big?: boolean;
  hideLabel?: boolean;
  clearAfter?: boolean;
}) {
  const [text, setTyped] = useState<string | null>(null);
  const [said, setRefused] = useState<Refused | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const leaving = useRef<string | null>(null);
  const id = useId();
  const open = useOpenJob();
  // What was refused and then accepted from outside of the field stands no longer.
  const lifted = useLifted(said?.refusal ?? null);
  const refused = lifted ? null : said;
  const typed = lifted ? null : text;
  const forget = () => {
    setTyped(null);
    setRefused(null);
  };

  const send = async (chosen?: string) => {
    if (chosen !== undefined) setTyped(chosen);
    const sent = chosen ?? typed;
    if (sent === null || sent === leaving.current) return;
    if (sent === value && !refused) {
      setTyped(null);
      return;
    }
    leaving.current = sent;
    const refusal = await (change ? open!.change(change(sent)) : commit(sent));
    if (leaving.current === sent) leaving.current = null;
    // At the right edge of the window the reason opens to the left.
    const from = field.current?.getBoundingClientRect().left ?? 0;
    setRefused(refusal && { refusal, toLeft: from + REASON_PX > window.innerWidth });
    // What was typed while the answer was on its way stays.
    if (!refusal) setTyped((now) => (now === sent ? (clearAfter ? "" : null) : now));
  };
  return (
    <span className="relative inline-flex max-w-full flex-col items-stretch">
      <span className="inline-flex max-w-full items-baseline gap-1">
        <label htmlFor={id} className={hideLabel ? "sr-only" : "mr-1 text-muted"}>
          {label}
        </label>
        <input
          ref={field}
          id={id}
          value={typed ?? value}
          placeholder={placeholder}
          inputMode={number ? "decimal" : "text"}
          autoComplete="off"
          spellCheck={false}
          aria-invalid={refused ? true : undefined}
          aria-describedby={refused ? `${id}-why` : undefined}
          style={{ width }}
          className={`dotted-field min-w-0 max-w-full focus:bg-field ${number ? "text-right" : ""} ${big ? "text-head" : "text-dense"} ${refused ? "border-fail border-b-2" : ""}`}
          onChange={(e) => {
            if (typed === null) open?.begins();
            setTyped(e.target.value);
            if (change) open?.foresee(change(e.target.value));
          }}
          onFocus={(e) => e.target.select()}
          onBlur={(e) => {
            // A choice between two readings is part of the field.
            if (!e.currentTarget.parentElement?.parentElement?.contains(e.relatedTarget))
              void send();
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter") void send();
            if (e.key === "Escape") forget();
          }}
        />
        {suffix && <span className="text-muted text-dense">{suffix}</span>}
      </span>
      {refused && (
        <span
          id={`${id}-why`}
          role="alert"
          className={`absolute top-full z-20 w-64 ${refused.toLeft ? "right-0" : "left-0"} border border-fail bg-sheet p-2 text-left text-dense text-ink leading-dense`}
        >
          <Reason refused={refused.refusal} />
          {sendAgain(refused.refusal) && <Again onAgain={() => send()} onLeave={forget} />}
          {refused.refusal.choices.length > 0 && (
            <span className="mt-1 flex flex-wrap gap-2">
              {refused.refusal.choices.map((c) => (
                <button key={c} type="button" className="plain-button" onClick={() => send(c)}>
                  {c}
                </button>
              ))}
            </span>
          )}
        </span>
      )}
    </span>
  );
}

type Refused = { refusal: Refusal; toLeft: boolean };
const REASON_PX = 264;

const NOBODY = () => () => {};

/** Whether a write was refused and then accepted when it was sent again from outside of its field. */
function useLifted(refusal: Refusal | null): boolean {
  const writes = useOpenJob()?.writes;
  return useSyncExternalStore(writes?.subscribe ?? NOBODY, () =>
    refusal ? (writes?.getState().lifted.has(refusal) ?? false) : false,
  );
}

function Reason({ refused }: { refused: Refusal }) {
  return (
    <>
      {sendAgain(refused) && <b>Not kept. </b>}
      <b>{refused.field || refused.title}:</b> <RefusalWords it={refused} />
    </>
  );
}

function Again({ onAgain, onLeave }: { onAgain: () => void; onLeave: () => void }) {
  return (
    <span className="mt-1 flex gap-2">
      <button type="button" className="plain-button" onClick={onAgain}>
        Try again
      </button>
      <button type="button" className="plain-button" onClick={onLeave}>
        Leave it
      </button>
    </span>
  );
}

/** A choice that waits for the service's answer, and stays as chosen when it was not kept. */
function useChosen<T>(onChange: (value: T) => unknown) {
  const [now, setChosen] = useState<{ value: T } | null>(null);
  const [said, setRefused] = useState<Refusal | null>(null);
  const lifted = useLifted(said);
  const forget = () => {
    setChosen(null);
    setRefused(null);
  };
  const choose = async (value: T) => {
    setChosen({ value });
    let answer: unknown = null;
    try {
      answer = await onChange(value);
    } finally {
      const refusal = answer && typeof answer === "object" && "remedy" in answer ? answer : null;
      setRefused(refusal as Refusal | null);
      if (!refusal) setChosen(null);
    }
  };
  return { chosen: lifted ? null : now, refused: lifted ? null : said, choose, forget };
}

function NotKept<T>({ of }: { of: ReturnType<typeof useChosen<T>> }) {
  const { refused, chosen, choose, forget } = of;
  if (!refused) return null;
  return (
    <span role="alert" className="block max-w-64 text-dense text-fail">
      <Reason refused={refused} />
      {chosen && <Again onAgain={() => choose(chosen.value)} onLeave={forget} />}
    </span>
  );
}

/** A choice edited in place. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  hideLabel = true,
  width,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => unknown;
  hideLabel?: boolean;
  width?: number | string;
}) {
  const id = useId();
  const chosen = useChosen(onChange);
  return (
    <span className="inline-flex flex-wrap items-baseline gap-1">
      <label htmlFor={id} className={hideLabel ? "sr-only" : "mr-1 text-muted"}>
        {label}
      </label>
      <select
        id={id}
        value={chosen.chosen?.value ?? value}
        style={{ width }}
        aria-invalid={chosen.refused ? true : undefined}
        className={`dotted-field max-w-[calc(100vw-96px)] cursor-pointer bg-sheet text-dense ${chosen.refused ? "border-fail border-b-2" : ""}`}
        onChange={(e) => chosen.choose(e.target.value as T)}
      >
        {options.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
      <NotKept of={chosen} />
    </span>
  );
}

export function Tick({
  label,
  on,
  onChange,
  hideLabel,
  large,
}: {
  label: string;
  on: boolean;
  onChange: (on: boolean) => Promise<unknown>;
  hideLabel?: boolean;
  large?: boolean;
}) {
  // Shown as ticked at once; the service's answer then decides.
  const chosen = useChosen(onChange);
  return (
    <>
      <label
        className={`inline-flex cursor-pointer items-center ${large ? "min-h-11 w-full gap-3 font-bold" : "min-h-6 gap-2 text-dense"}`}
      >
        <input
          type="checkbox"
          checked={chosen.chosen?.value ?? on}
          aria-invalid={chosen.refused ? true : undefined}
          onChange={(e) => chosen.choose(e.target.checked)}
          className={`accent-(--color-ink) ${large ? "h-7 w-7" : "h-4 w-4"}`}
        />
        <span className={hideLabel ? "sr-only" : ""}>{label}</span>
      </label>
      <NotKept of={chosen} />
    </>
  );
}

/** Why something that was typed or chosen was refused, and the remedy; or what of a file stayed out. */
export function Why({ refused, left = [] }: { refused: Refusal | null; left?: string[] }) {
  if (!refused) {
    return left.length ? (
      <p role="alert" className="m-0 mt-1 text-dense text-fail">
        <b>Left out, the rest is in:</b> {left.join(" ")}
      </p>
    ) : null;
  }
  return (
    <p role="alert" className="m-0 mt-1 text-dense text-fail">
      <Reason refused={refused} />
    </p>
  );
}

/** A button that opens a file. */
export function FilePick({
  children,
  label,
  accept,
  onFile,
  tall,
}: {
  children: ReactNode;
  label: string;
  accept: string;
  onFile: (file: File) => void;
  tall?: boolean;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className={`plain-button ${tall ? "min-h-11" : ""}`}
        onClick={() => input.current?.click()}
      >
        {children}
      </button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = "";
          if (chosen) onFile(chosen);
        }}
      />
    </>
  );
}
