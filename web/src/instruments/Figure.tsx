import type { ReactNode } from "react";
import { useShown } from "../units/showing";
import { shown } from "../units/units";
import type { State, Unit } from "../wire/types";
import { StateWord, TEXT } from "./StateMark";

/** Digits of a large figure: decimal point pulled in, degree sign from the text face. */
export function Digits({ text, size = 40 }: { text: string; size?: number }) {
  const [whole, part] = text.split(".");
  return (
    <span
      className="font-mono"
      style={{ fontSize: size, lineHeight: 1.1, fontWeight: 500, letterSpacing: "-0.02em" }}
    >
      {whole}
      {part !== undefined && (
        <>
          <span style={{ margin: `0 ${-size * 0.14}px` }}>.</span>
          {part}
        </>
      )}
    </span>
  );
}

export function BigFigure({
  value,
  unit,
  digits = 1,
  tone,
  size = 40,
}: {
  value: number | null | undefined;
  unit: Unit;
  digits?: number;
  tone?: State;
  size?: number;
}) {
  const at = useShown();
  if (value == null)
    return (
      <span className="text-muted" style={{ fontSize: size * 0.6, lineHeight: `${size * 1.1}px` }}>
        not known
      </span>
    );
  const s = shown(value, unit, digits, at);
  const degree = s.unit.startsWith("°");
  return (
    <span className={`whitespace-nowrap max-md:whitespace-normal ${tone ? TEXT[tone] : ""}`}>
      <Digits text={s.figure} size={size} />
      {degree ? (
        <>
          <span style={{ fontSize: size * 0.85, lineHeight: 1 }}>°</span>
          {s.unit.length > 1 && (
            <span className="font-mono" style={{ fontSize: size / 2.2 }}>
              {s.unit.slice(1)}
            </span>
          )}
        </>
      ) : (
        s.unit && (
          <span className="ml-1.5 inline-block" style={{ fontSize: size / 2 }}>
            {s.unit}
          </span>
        )
      )}
    </span>
  );
}

/** One cell of the answer strip. */
export function Answer({
  children,
  title,
  more,
  state,
  wide,
}: {
  children: ReactNode;
  title: ReactNode;
  more?: ReactNode;
  state?: State;
  wide?: boolean;
}) {
  return (
    <div
      className={`min-w-0 border-l border-line px-4 first:border-l-0 first:pl-0 max-md:px-2 ${wide ? "flex-[1.4]" : state ? "flex-[1.08]" : "flex-1"}`}
    >
      <div className="flex h-12 items-center gap-2 overflow-hidden max-md:h-auto max-md:min-h-12 max-md:flex-wrap max-md:gap-y-0">
        {children}
        {state && <StateWord state={state} />}
      </div>
      <div className="text-dense leading-dense">
        <div className="font-bold">{title}</div>
        <div className="text-muted">{more}</div>
      </div>
    </div>
  );
}

export function AnswerStrip({ children }: { children: ReactNode }) {
  return (
    <section
      aria-label="Answer"
      className="flex min-h-[100px] flex-wrap gap-y-3 border-line border-b px-6 py-2.5 max-md:grid max-md:grid-cols-2 max-md:px-4"
    >
      {children}
    </section>
  );
}
