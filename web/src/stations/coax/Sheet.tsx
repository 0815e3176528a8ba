import { BracketGauge } from "../../instruments/BracketGauge";
import { BigFigure } from "../../instruments/Figure";
import { LevelPlot } from "../../instruments/LevelPlot";
import { StateWord } from "../../instruments/StateMark";
import { PictureRegion } from "../../parts/PictureRegion";
import { Choice, NumberField, TextField } from "../../parts/Value";
import type { Cable, Catalogue, Gauge, PartDetail } from "../../service/client";
import { useAnswers, useJob, useView } from "../../service/job";
import { setting, useRows } from "../../service/rows";
import { useShown } from "../../units/showing";
import { shown } from "../../units/units";
import { RouteOf } from "./RouteOf";
import { Staircase } from "./Staircase";
import { usePartDetail } from "./usePartDetail";

/** Everything about the selected part: level, plot, cable, staircase, noise, powering. */
export function Sheet({
  part: id,
  catalogue,
  act,
}: {
  part: string;
  catalogue: Catalogue;
  /** Does at the part what a key of the network does. */
  act: (key: string, part: string) => void;
}) {
  const job = useJob("links", "parts");
  const answers = useAnswers("coax");
  const parts = useRows("parts");
  const detail = usePartDetail(id);
  const coax = answers.coax;
  const part = coax.parts.find((p) => p.id === id);
  if (!part) return null;
  const kept = (job.parts ?? []).find((p) => p.id === id);
  const outlet = coax.outlets.find((o) => o.part === id);
  const feeds = (job.links ?? []).filter((k) => k.to_part === id);
  const type = catalogue.parts[part.type];
  const channels = new Map(coax.channels.map((l) => [l.id, l]));
  const cells = new Map((detail?.cells ?? []).map((c) => [c.carrier, c]));
  const points = (detail?.levels ?? []).flatMap(([c, level]) => {
    const channel = channels.get(c as string);
    return channel
      ? [
          {
            channel,
            level: level as number,
            state: cells.get(c as string)?.level.state ?? ("ok" as const),
          },
        ]
      : [];
  });
  const here = points.map((p) => p.channel);
  const worst = [...(detail?.cells ?? [])]
    .filter((c) => c.level.value != null)
    .sort((a, b) => a.level.value! - a.level.low! - (b.level.value! - b.level.low!))[0];
  const highest = [...here].sort((a, b) => b.frequency_mhz - a.frequency_mhz)[0];
  const setPart = (body: Record<string, string>) => parts.set(id, body);
  return (
    <div className="flex flex-col gap-3">
      <div>
        <div className="flex items-start justify-between gap-2">
          <h2 className="m-0 font-bold text-head leading-6">{part.name}</h2>
          <StateWord state={outlet?.state ?? part.state} />
        </div>
        <div className="text-dense text-muted">
          {outlet ? `outlet, ${outlet.floor || "no floor named"}` : part.type_name}
        </div>
      </div>
      {worst && (
        <div>
          <BigFigure value={worst.level.value} unit="dbuv" size={26} tone={worst.level.state} />
          <div className="text-dense">
            nearest to its limit, {channels.get(worst.carrier)?.frequency_mhz.toFixed(0)} MHz
          </div>
        </div>
      )}
      {points.length > 0 && (
        <div>
          <div className="text-dense">Level over frequency in MHz</div>
          <PictureRegion name="Level plot">
            <LevelPlot points={points} windows={Boolean(outlet)} />
          </PictureRegion>
        </div>
      )}
      {feeds.length > 0 && <Cables feeds={feeds} catalogue={catalogue} ways={detail?.ways} />}
      <div className="flex flex-wrap items-baseline gap-3 text-dense">
        {!outlet && (
          <TextField
            label="Name of the part"
            hideLabel={false}
            value={kept?.name ?? ""}
            width={110}
            commit={(name) => setPart({ name })}
            placeholder={part.type_name}
          />
        )}
        <TextField
          label="Variant of the part"
          hideLabel
          value={kept?.variant ?? ""}
          width={130}
          commit={(variant) => setPart({ variant })}
          placeholder="variant, colour or mark"
        />
        {type?.setting && (
          <>
            {type.draws_as === "attenuator" ? "Attenuation" : "Turned down"}
            <NumberField
              label="Setting"
              value={kept?.setting_db ?? 0}
              unit="db"
              width={44}
              change={(t) => setting("parts", id, { setting_db: t })}
            />
          </>
        )}
      </div>
      <Actions act={(key) => act(key, id)} />
      {highest && <Staircase part={id} channels={here} start={worst?.carrier ?? highest.id} />}
      {outlet && detail && <Noise cells={detail.cells} />}
      {outlet && detail && <Ripple cells={detail.cells} />}
      <Powering part={id} />
      {part.output && (
        <section className="border-line border-t pt-2 text-dense">
          <h3 className="m-0 font-bold text-dense">Output against overload</h3>
          <GaugeRow name="strongest carrier" gauge={part.output} />
        </section>
      )}
    </div>
  );
}

function Actions({ act }: { act: (key: string) => void }) {
  const button = (name: string, key: string, hint = key) => (
    <button type="button" className="plain-button px-2! py-1! text-dense" onClick={() => act(key)}>
      {name} <span className="num text-muted">{hint}</span>
    </button>
  );
  return (
    <div className="flex flex-wrap gap-1.5">
      {button("Add after", "a")}
      {button("Branch", "b")}
      {button("Replace", "r")}
      {button("Copy branch", "c")}
      {button("Feed from", "m")}
      {button("Remove", "Delete", "Del")}
    </div>
  );
}

function Cables({
  feeds,
  catalogue,
  ways,
}: {
  feeds: Cable[];
  catalogue: Catalogue;
  ways: PartDetail["ways"] | undefined;
}) {
  const links = useRows("links");
  const set = (id: string, body: Record<string, string>) => links.set(id, body);
  const cables = Object.values(catalogue.cables).map((c) => [c.key, c.short] as const);
  return (
    <section aria-label="Cable that comes in" className="text-dense">
      {feeds.map((k) => (
        <div key={k.id} className="py-0.5">
          <div className="flex items-baseline gap-2">
            <span className="text-muted">
              {feeds.length > 1 ? `line ${(k.to_port ?? 0) + 1}` : "Cable"}
            </span>
            <NumberField
              label={
                feeds.length > 1 ? `Cable length, line ${(k.to_port ?? 0) + 1}` : "Cable length"
              }
              value={k.length_m}
              unit="m"
              width={52}
              change={(t) => setting("links", k.id, { length_m: t })}
            />
            <Choice
              label={feeds.length > 1 ? `Cable type, line ${(k.to_port ?? 0) + 1}` : "Cable type"}
              value={k.cable}
              options={cables}
              onChange={(cable) => set(k.id, { cable })}
              width={128}
            />
          </div>
          <RouteOf
            link={k}
            way={ways?.find((w) => w.link === k.id)}
            name={feeds.length > 1 ? `line ${(k.to_port ?? 0) + 1}` : "this cable"}
          />
        </div>
      ))}
      {feeds.length === 1 && feeds[0] && (
        <TextField
          label="Field note"
          value={feeds[0].note ?? ""}
          width="270px"
          commit={(note) => set(feeds[0]!.id, { note })}
          placeholder="field note"
        />
      )}
    </section>
  );
}

function GaugeRow({ name, gauge, digits = 1 }: { name: string; gauge: Gauge; digits?: number }) {
  const at = useShown();
  const s =
    gauge.value == null ? { figure: "none", unit: "" } : shown(gauge.value, gauge.unit, digits, at);
  return (
    <div className="flex items-center gap-2 py-0.5 text-dense">
      <span className="w-[88px] truncate">{name}</span>
      <BracketGauge gauge={gauge} width={62} />
      <span className="num ml-auto whitespace-nowrap">
        {s.figure} {s.unit}
      </span>
      <span className="w-[84px]">
        <StateWord state={gauge.state} />
      </span>
    </div>
  );
}

function Noise({ cells }: { cells: { carrier: string; margin: Gauge; cn_db?: number | null }[] }) {
  const every = useView((view) => view.answers.coax.channels);
  const channels = new Map(every.map((l) => [l.id, l]));
  const thin = (group: string) =>
    [...cells]
      .filter((c) => channels.get(c.carrier)?.group === group && c.margin.value != null)
      .sort((a, b) => a.margin.value! - b.margin.value!)[0];
  const rows = [thin("terrestrial"), thin("satellite"), thin("cable")].filter(
    (c) => c !== undefined,
  );
  if (!rows.length) return null;
  return (
    <section aria-label="Noise" className="border-line border-t pt-2">
      <h3 className="m-0 font-bold text-dense">Quality margin over the threshold</h3>
      {rows.map((c) => (
        <GaugeRow
          key={c.carrier}
          name={`${channels.get(c.carrier)?.frequency_mhz.toFixed(0)} MHz`}
          gauge={c.margin}
        />
      ))}
    </section>
  );
}

/** The carrier that echoes lift and lower most. */
function Ripple({ cells }: { cells: { carrier: string; ripple: Gauge }[] }) {
  const every = useView((view) => view.answers.coax.channels);
  const channels = new Map(every.map((l) => [l.id, l]));
  const most = [...cells]
    .filter((c) => c.ripple.value != null)
    .sort((a, b) => b.ripple.value! - a.ripple.value!)[0];
  if (!most) return null;
  return (
    <section aria-label="Echoes" className="border-line border-t pt-2">
      <h3 className="m-0 font-bold text-dense">Echoes, from top to bottom</h3>
      <GaugeRow
        name={`${channels.get(most.carrier)?.frequency_mhz.toFixed(0)} MHz`}
        gauge={most.ripple}
      />
    </section>
  );
}

function Powering({ part }: { part: string }) {
  const answers = useAnswers("coax");
  const coax = answers.coax;
  const names = new Map(coax.parts.map((p) => [p.id, p.name]));
  const feeds = coax.feeds.filter((f) => f.consumer === part || f.supply === part);
  const supply = coax.supplies.find((s) => s.part === part);
  if (!feeds.length && !supply) return null;
  return (
    <section aria-label="Powering" className="border-line border-t pt-2">
      <h3 className="m-0 font-bold text-dense">Powering</h3>
      {feeds.map((f) => (
        <GaugeRow
          key={f.consumer}
          name={
            f.consumer === part
              ? f.supply
                ? `from ${names.get(f.supply)}`
                : "no supply"
              : `${names.get(f.consumer)}`
          }
          gauge={f.voltage}
        />
      ))}
      {supply && <GaugeRow name="current" gauge={supply.load} digits={0} />}
    </section>
  );
}
