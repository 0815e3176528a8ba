import { X } from "lucide-react";
import { type FormEvent, type ReactNode, useState } from "react";
import type { Refusal } from "../wire/types";
import { besideRemoved } from "./focus";
import { Why } from "./Value";

const FIELD = "h-8 rounded-sm border border-tick bg-field px-2 text-dense";

/** The line below a list that adds a row to it; what is refused is said there. */
export function AddRow({
  button,
  add,
  children,
}: {
  button: string;
  add: () => Promise<Refusal | null>;
  children: ReactNode;
}) {
  const [refused, refuse] = useState<Refusal | null>(null);
  const submit = async (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const form = e.currentTarget;
    const refusal = await add();
    refuse(refusal);
    // The next one can be typed at once.
    if (!refusal) form.querySelector<HTMLElement>("input, select")?.focus();
  };
  return (
    <form onSubmit={submit} className="mt-2 flex flex-wrap items-center gap-3 text-dense">
      <b>+</b>
      {children}
      <button type="submit" className="plain-button">
        {button}
      </button>
      <Why refused={refused} />
    </form>
  );
}

/** A field of such a line, named for those who hear it. */
export function NewText({
  label,
  value,
  change,
  hint = label,
  width = "",
  required,
}: {
  label: string;
  value: string;
  change: (text: string) => void;
  hint?: string;
  width?: string;
  required?: boolean;
}) {
  return (
    <label>
      <span className="sr-only">{label}</span>
      <input
        className={`${FIELD} ${width}`}
        placeholder={hint}
        required={required}
        autoComplete="off"
        value={value}
        onChange={(e) => change(e.target.value)}
      />
    </label>
  );
}

/** A choice of such a line: keys with the words for them. */
export function NewChoice<K extends string>({
  label,
  value,
  change,
  options,
}: {
  label: string;
  value: K;
  change: (key: K) => void;
  options: readonly (readonly [K, string])[];
}) {
  return (
    <select
      aria-label={label}
      className={FIELD}
      value={value}
      onChange={(e) => change(e.target.value as K)}
    >
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** Takes a row away: a word in a table that is read, a mark beside what is read off a tool. */
export function RemoveButton({
  label,
  remove,
  mark,
  className = "",
}: {
  label: string;
  remove: () => unknown;
  mark?: boolean;
  className?: string;
}) {
  const take = async (e: React.MouseEvent<HTMLButtonElement>) => {
    const next = besideRemoved(e.currentTarget);
    await remove();
    if (next?.isConnected) next.focus();
  };
  return mark ? (
    <button
      type="button"
      data-remove
      aria-label={label}
      className={`grid place-items-center ${className || "h-6 w-6"}`}
      onClick={take}
    >
      <X size={14} aria-hidden="true" />
    </button>
  ) : (
    <button
      type="button"
      data-remove
      aria-label={label}
      className="text-ink underline"
      onClick={take}
    >
      remove
    </button>
  );
}

/** The head of the column of such buttons. */
export function RemoveHead() {
  return (
    <th scope="col">
      <span className="sr-only">Remove</span>
    </th>
  );
}
