import { useState } from "react";
import { useSearchParams } from "wouter";
import { CurveWord } from "../instruments/Curves";
import { StateMark } from "../instruments/StateMark";
import { FilePick, Why } from "../parts/Value";
import type { Catalogue, PartType, Refusal, SheetView } from "../service/client";
import { useShowing } from "../service/settings";
import { type Shelf, useCatalogue, useSheet, useShelves, useWorkshop } from "../service/workshop";
import { OuterFrame } from "../shell/OuterFrame";
import { ShowingProvider } from "../units/showing";
import { SheetPane } from "./SheetPane";

const KINDS = [
  ["all", "all"],
  ["cable", "cables"],
  ["share", "splits and taps"],
  ["amplifier", "amplifiers"],
  ["switch", "switches"],
  ["lnb", "LNBs"],
  ["array", "antennas"],
  ["more", "more"],
] as const;
const OF_PICTURE: Record<string, string> = {
  splitter: "share",
  tap: "share",
  combiner: "share",
  amplifier: "amplifier",
  preamplifier: "amplifier",
  multiswitch: "switch",
  lnb: "lnb",
};

type Row = {
  shelf: Shelf;
  key: string;
  name: string;
  kind: string;
  ports: string;
  power: string;
  curves: [number, number][][];
};

function powerOf(p: PartType) {
  if (p.load) return `needs ${p.load.ma} mA, ${p.load.low_v} to ${p.load.high_v} V`;
  if (p.supply) return `gives ${p.supply.volts} V, ${p.supply.most_ma} mA`;
  return (p.dc ?? []).length ? "passes" : "";
}

function rowsOf(shop: Catalogue): Row[] {
  const parts = Object.values(shop.parts).map((p) => ({
    shelf: "part" as const,
    key: p.key,
    name: p.name,
    kind: OF_PICTURE[p.draws_as] ?? "more",
    ports: `${p.inputs}, ${p.outputs}`,
    power: powerOf(p),
    curves: (p.paths ?? []).map((way) => way.gain_db as [number, number][]),
  }));
  const cables = Object.values(shop.cables).map((c) => ({
    shelf: "cable" as const,
    key: c.key,
    name: c.name,
    kind: "cable",
    ports: "",
    power: `${c.loop_ohm_km} Ω/km`,
    curves: [shop.cable_curves[c.key] as [number, number][]],
  }));
  const arrays = Object.values(shop.antennas ?? {}).map((a) => ({
    shelf: "array" as const,
    key: a.key,
    name: a.name,
    kind: "array",
    ports: "",
    power: `${a.beamwidth_deg}° beam`,
    curves: [a.gain as [number, number][]],
  }));
  return [...parts, ...cables, ...arrays];
}

/** Every word of the search in a row's name or kind. */
function found(row: Row, words: string[]) {
  const text = `${row.name} ${row.kind} ${row.key}`.toLowerCase();
  return words.every((w) => text.includes(w));
}

export default function Parts() {
  const shop = useCatalogue();
  const shelves = useShelves();
  const workshop = useWorkshop();
  const showing = useShowing();
  const [asked, ask] = useSearchParams();
  const [search, setSearch] = useState("");
  const [kind, setKind] = useState<string>("all");
  const [refused, refuse] = useState<Refusal | null>(null);
  const shelf = (asked.get("shelf") ?? "part") as Shelf;
  const key = asked.get("key") ?? "multiswitch-12";
  const sheet = useSheet(shelf, key);
  if (!shop || !shelves) return <OuterFrame title="Parts">{null}</OuterFrame>;
  const beside = new Map(shelves.map((s) => [`${s.shelf} ${s.key}`, s]));
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const all = rowsOf(shop);
  const rows = all.filter((r) => (kind === "all" || r.kind === kind) && found(r, words));
  const own = rows.filter((r) => beside.get(`${r.shelf} ${r.key}`)?.own).length;
  const open = (at: Shelf, one: string | null) => {
    ask(one ? { shelf: at, key: one } : {}, { replace: true });
    // Where the sheet stands above the list it is what one wants to see next.
    if (window.innerWidth < 1024) window.scrollTo(0, 0);
  };
  return (
    <OuterFrame title="Parts">
      <div className="-mx-6 -my-4 flex min-h-[calc(100vh-48px)] max-lg:flex-col-reverse max-lg:justify-end max-md:-mx-4">
        <div className="min-w-0 flex-1 px-6 py-4 max-md:px-4">
          <Why refused={refused} />
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2 text-dense text-muted">
            <label>
              <span className="sr-only">Search</span>
              <input
                type="search"
                className="h-9 w-64 rounded-sm border border-tick bg-field px-3 text-body text-ink"
                placeholder="search"
                value={search}
                onChange={(e) => setSearch(e.target.value)}
              />
            </label>
            <span>
              {rows.length} of {all.length}: {rows.length - own} generic, {own} of your own
            </span>
            <span className="ml-auto flex flex-wrap items-center gap-2">
              <FilePick
                label="File of sheets"
                accept=".csv,.json,text/csv,application/json"
                onFile={async (f) => refuse(await workshop.take(f))}
              >
                Take sheets in
              </FilePick>
              <a className="plain-button no-underline" href="/api/workshop/sheets.csv">
                Out as CSV
              </a>
              <a className="plain-button no-underline" href="/api/workshop/sheets.json">
                Out as JSON
              </a>
            </span>
          </div>
          <fieldset className="m-0 mt-3 flex flex-wrap gap-x-7 border-0 border-line border-b p-0">
            <legend className="sr-only">Kind</legend>
            {KINDS.map(([k, name]) => (
              <button
                key={k}
                type="button"
                aria-pressed={kind === k}
                onClick={() => setKind(k)}
                className={`cursor-pointer border-0 border-b-2 bg-transparent px-0 py-1.5 text-dense ${kind === k ? "border-copper font-semibold" : "border-transparent text-muted"}`}
              >
                {name}
              </button>
            ))}
          </fieldset>
          <table className="w-full border-collapse text-dense">
            <thead>
              <tr className="text-muted">
                <th scope="col" className="py-2 font-semibold text-ink">
                  Part
                </th>
                <th scope="col" className="whitespace-nowrap text-right">
                  in, out
                </th>
                <th scope="col" className="pl-8 max-md:hidden">
                  dB over its range
                </th>
                <th scope="col" className="pl-4 max-md:hidden">
                  power
                </th>
                <th scope="col" className="whitespace-nowrap pl-3 text-right">
                  in jobs
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => {
                const line = beside.get(`${r.shelf} ${r.key}`);
                const here = r.shelf === shelf && r.key === key;
                return (
                  <tr
                    key={`${r.shelf} ${r.key}`}
                    className={`border-line border-b ${here ? "bg-halo" : ""}`}
                  >
                    <th scope="row" className="py-1">
                      <button
                        type="button"
                        aria-pressed={here}
                        onClick={() => open(r.shelf, r.key)}
                        className="cursor-pointer border-0 bg-transparent p-0 text-left leading-dense"
                      >
                        <b className="block">{r.name}</b>
                        <span
                          className={`font-normal ${here ? "text-ink" : line?.own ? "text-copper" : "text-muted"}`}
                        >
                          {line?.own ? line.origin : "generic"}
                        </span>
                      </button>
                    </th>
                    <td className="num whitespace-nowrap text-right">{r.ports}</td>
                    <td className="pl-8 max-md:hidden">
                      <CurveWord curves={r.curves} />
                    </td>
                    <td className="pl-4 leading-dense max-md:hidden">{r.power}</td>
                    <td className="num text-right">{line?.jobs ?? 0}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          {rows.length === 0 && (
            <p>Nothing of that name. Copy what comes nearest, and type its sheet over it.</p>
          )}
          {sheet && <Used sheet={sheet} />}
        </div>
        {sheet && (
          <ShowingProvider value={showing}>
            <SheetPane
              key={`${shelf} ${key}`}
              sheet={sheet}
              onOpen={open}
              asked={asked.has("key")}
            />
          </ShowingProvider>
        )}
      </div>
    </OuterFrame>
  );
}

/** The jobs that use the open sheet, and what its figures would do in those that have older ones. */
function Used({ sheet }: { sheet: SheetView }) {
  const { update } = useWorkshop();
  const [refused, refuse] = useState<Refusal | null>(null);
  const older = sheet.jobs.filter((j) => j.older);
  if (!sheet.jobs.length) return null;
  return (
    <section aria-label="Used in jobs" className="mt-6 text-dense">
      <h2 className="m-0 border-line border-b pb-1.5 text-body">
        {older.length ? "Used in jobs with older figures" : "Used in jobs, with these figures"}
      </h2>
      <ul className="m-0 list-none p-0">
        {(older.length ? older : sheet.jobs).map((j) => (
          <li
            key={j.job}
            className="grid grid-cols-[minmax(120px,1fr)_2fr_auto] items-center gap-3 border-line border-b py-2"
          >
            <span className="flex items-center gap-2">
              <StateMark state={j.state_then} size={18} />
              <b>{j.name}</b>
            </span>
            <span>
              {j.inside} of {j.wanted} outlets in
              {j.older && `, with this sheet ${j.inside_then}`}
            </span>
            {j.older && (
              <button
                type="button"
                className="plain-button"
                onClick={async () => refuse(await update(j.job, j.revision, j.change))}
              >
                Update it
              </button>
            )}
          </li>
        ))}
      </ul>
      <Why refused={refused} />
      <p className="text-muted">A job keeps the figures it was planned with until you update it.</p>
    </section>
  );
}
