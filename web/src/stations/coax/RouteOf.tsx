import { useState } from "react";
import { BEHIND } from "../../parts/behind";
import { RemoveButton } from "../../parts/rows";
import { Choice, NumberField, Why } from "../../parts/Value";
import type { Cable, PartDetail, Refusal } from "../../service/client";
import { useWrites } from "../../service/job";
import { setting, useRows } from "../../service/rows";
import { Say } from "../../units/showing";

type Stretch = NonNullable<Cable["route"]>[number];
type Lies = Stretch[0];

const LIES: readonly (readonly [Lies, string])[] = [
  ["mast", "down the mast"],
  ["roof", "over the roof"],
  ["loft", "loft"],
  ["wall", "along the wall"],
  ["down", "down the wall"],
  ["hole", "hole"],
  ["riser", "riser"],
  ["duct", "duct"],
  ["ground", "under ground"],
  ["indoors", "indoors"],
  ["loop", "loops"],
  ["slack", "slack"],
];

/** Where a cable lies, stretch by stretch; its length is theirs together. */
export function RouteOf({
  link,
  way,
  name,
}: {
  link: Cable;
  way: PartDetail["ways"][number] | undefined;
  name: string;
}) {
  const { change } = useWrites();
  const links = useRows("links");
  const [open, show] = useState(false);
  const [refused, refuse] = useState<Refusal | null>(null);
  const route: Stretch[] = link.route ?? [];
  const put = async (next: Stretch[]) => {
    const said = await links.set(link.id, { route: next });
    refuse(said);
    return said;
  };
  const resized = async (i: number, text: string) => {
    // The service reads what was typed: a figure of the length's own field.
    const said = await change({
      verb: "several",
      words: "change the route",
      changes: [
        {
          verb: "set",
          rows: "links",
          id: link.id,
          values: { route: route.map((s, n) => (n === i ? [s[0], text] : s)) },
          as_is: false,
        },
      ],
    });
    refuse(null);
    return said;
  };
  return (
    <div className="mt-2">
      <p className="m-0 flex flex-wrap items-baseline gap-x-3">
        <button
          type="button"
          aria-expanded={open}
          aria-label={`route of ${name}`}
          className="link"
          onClick={() => show(!open)}
        >
          {open ? "−" : "+"} route
        </button>
        {way && route.length > 0 && (
          <span className="text-muted">
            <span className="num">{way.clips}</span> clips, <span className="num">{way.holes}</span>{" "}
            {way.holes === 1 ? "hole" : "holes"}
          </span>
        )}
        <span>
          <NumberField
            label={`Hottest, ${name}`}
            value={link.celsius ?? 20}
            unit="count"
            digits={0}
            width={34}
            change={(t) => setting("links", link.id, { celsius: t })}
          />{" "}
          <span className="text-muted">°C at most</span>
        </span>
      </p>
      {open && (
        <div className="border-copper border-l-2 pl-2">
          {route.length === 0 && (
            <p className="m-0 text-muted">
              One length so far. Say where it lies, and it is their sum.
            </p>
          )}
          <ol className="m-0 list-none p-0">
            {route.map((s, i) => (
              <li key={i} className="flex items-baseline gap-1 py-0.5">
                <Choice
                  label={`Stretch ${i + 1} lies`}
                  value={s[0]}
                  options={LIES}
                  width={140}
                  onChange={(kind) => put(route.map((o, n) => (n === i ? [kind, o[1]] : o)))}
                />
                <NumberField
                  label={`Stretch ${i + 1} length`}
                  value={s[1]}
                  unit="m"
                  width={48}
                  commit={(t) => resized(i, t)}
                />
                <RemoveButton
                  label={`Remove stretch ${i + 1}`}
                  remove={() => put(route.filter((_, n) => n !== i))}
                />
              </li>
            ))}
          </ol>
          {route.some(([lies]) => lies === "hole") && (
            <p className="m-0 flex items-baseline gap-2 py-0.5">
              <span className="text-muted">behind the hole</span>
              <Choice
                label={`Behind the hole of ${name}`}
                value={link.behind ?? "unknown"}
                options={BEHIND}
                width={140}
                onChange={(behind) => links.set(link.id, { behind })}
              />
            </p>
          )}
          <p className="m-0 flex flex-wrap gap-2 py-1">
            <button
              type="button"
              className="plain-button px-2! py-0.5!"
              onClick={() =>
                put([
                  ...route,
                  [route.length ? "indoors" : "wall", route.length ? 1 : link.length_m || 1],
                ])
              }
            >
              Add stretch
            </button>
            {way?.from_plan && (
              <button
                type="button"
                className="plain-button px-2! py-0.5!"
                onClick={async () => refuse(await change(way.from_plan!))}
              >
                From the Site plan
              </button>
            )}
          </p>
          {way?.from_plan && (
            <p className="m-0 text-muted">
              There: <Say it={way.plan_words} />
            </p>
          )}
          <Why refused={refused} />
        </div>
      )}
    </div>
  );
}
