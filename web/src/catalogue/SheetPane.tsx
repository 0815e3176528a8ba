import { useState } from "react";
import { Curves } from "../instruments/Curves";
import { PictureRegion } from "../parts/PictureRegion";
import { NewText } from "../parts/rows";
import { Choice, NumberField, TextField, Why } from "../parts/Value";
import type { Refusal, SheetLine, SheetView } from "../service/client";
import { isRefusal } from "../service/refusals";
import { type Shelf, useWorkshop } from "../service/workshop";

/** A sheet: its curves, every figure to type over, and the ways out. */
export function SheetPane({
  sheet,
  onOpen,
  asked,
}: {
  sheet: SheetView;
  /** Whether somebody chose it: on a small screen there is no room for one that nobody did. */
  asked: boolean;
  onOpen: (shelf: Shelf, key: string | null) => void;
}) {
  const workshop = useWorkshop();
  const shelf = sheet.shelf as Shelf;
  const [name, setName] = useState("");
  const [refused, refuse] = useState<Refusal | null>(null);
  const type = (field: string) => (text: string) => workshop.type(shelf, sheet.key, field, text);
  const copy = async () => {
    const made = await workshop.copy(shelf, sheet.key, name || `${sheet.name}, own`);
    refuse(isRefusal(made) ? made : null);
    if (!isRefusal(made)) {
      setName("");
      onOpen(shelf, made.key);
    }
  };
  const drop = async () => {
    refuse(await workshop.drop(shelf, sheet.key));
    if (sheet.base !== sheet.key) onOpen(shelf, sheet.base);
  };
  return (
    <aside
      aria-label="Sheet"
      className={`w-[432px] shrink-0 border-line border-l bg-paper px-5 py-4 max-lg:w-full max-lg:border-b max-lg:border-l-0 ${asked ? "" : "max-lg:hidden"}`}
    >
      <h2 className="m-0 font-bold text-head leading-6">{sheet.name}</h2>
      <p className="m-0 mb-2 text-dense text-muted">
        {sheet.own
          ? `from ${sheet.base === sheet.key ? "generic" : sheet.base_name}; of ${sheet.of_date}; ${sheet.typed} of ${sheet.lines.length} lines typed`
          : `${sheet.origin}`}
      </p>
      <PictureRegion name="Curves">
        <Curves curves={sheet.curves} />
      </PictureRegion>
      <table className="mt-2 w-full border-collapse text-dense">
        <tbody>
          {sheet.lines.map((line) => (
            <Line key={line.field} line={line} commit={type(line.field)} />
          ))}
          {sheet.own && (
            <tr className="border-line border-b">
              <th scope="row" className="w-[180px] py-1">
                where it comes from
              </th>
              <td>
                <TextField
                  label="where it comes from"
                  value={sheet.origin}
                  width={190}
                  commit={type("origin")}
                />
              </td>
            </tr>
          )}
        </tbody>
      </table>
      <p className="my-2 text-dense text-muted">
        Typed as on the sheet: “950 3.2; 2150 6”, decimal commas too. What is not typed stays as it
        was. Nothing is told beyond the last point of a curve.
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <NewText label="Name of the copy" hint="name of the copy" value={name} change={setName} />
        <button type="button" className="plain-button" onClick={copy}>
          Copy to a new one
        </button>
        {sheet.own && (
          <button type="button" className="plain-button" onClick={drop}>
            {sheet.base === sheet.key ? "Back to generic" : "Take it away"}
          </button>
        )}
      </div>
      <Why refused={refused} />
    </aside>
  );
}

function Line({
  line,
  commit,
}: {
  line: SheetLine;
  commit: (text: string) => Promise<Refusal | null>;
}) {
  return (
    <tr className="border-line border-b align-baseline">
      <th scope="row" className="w-[180px] py-1 pr-2 leading-dense">
        {line.title}
      </th>
      <td className={line.own ? "font-semibold" : "text-muted"}>
        {line.unit ? (
          <NumberField
            label={line.title}
            value={line.value}
            unit={line.unit}
            digits={line.value != null && Math.abs(line.value) < 10 ? 2 : 1}
            width={84}
            commit={commit}
          />
        ) : line.choices?.length ? (
          <Choice
            label={line.title}
            value={line.text}
            options={line.choices as unknown as readonly (readonly [string, string])[]}
            onChange={commit}
          />
        ) : (
          <TextField label={line.title} value={line.text} width={190} commit={commit} />
        )}
      </td>
    </tr>
  );
}
