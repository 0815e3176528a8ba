import { TriangleAlert } from "lucide-react";
import { useState } from "react";
import { BeamMap } from "../../instruments/BeamMap";
import { GaugeLine } from "../../instruments/GaugeLine";
import { StateMark } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import { PictureRegion } from "../../parts/PictureRegion";
import { AddRow, NewChoice, NewText, RemoveButton } from "../../parts/rows";
import { Cell, Head, Table, Title } from "../../parts/table";
import { Choice, FilePick, NumberField, TextField, Tick, Why } from "../../parts/Value";
import type { AimDetail, DishRow, Refusal, TwoWayView } from "../../service/client";
import { useJob, useView, useWrites } from "../../service/job";
import { fileTo } from "../../service/pages";
import { useSingle } from "../../service/rows";
import { useShown } from "../../units/showing";
import { figureOf, shown, unitName } from "../../units/units";
import { KeepOut, Null } from "./KeepOut";
import { useAimWrites } from "./useAimWrites";

/** A dish that transmits: the gate, people kept out, the beam, the null, the provider's record. */
export function TwoWay({ detail, antenna }: { detail: AimDetail; antenna: DishRow }) {
  const t = detail.two_way;
  const [left, leftWidth] = useWidth<HTMLDivElement>(500);
  const [right, rightWidth] = useWidth<HTMLDivElement>(500);
  if (!t) return null;
  return (
    <div className="grid gap-4">
      <Gate view={t} />
      <div className="grid grid-cols-2 gap-x-8 gap-y-6 max-lg:grid-cols-1">
        <section ref={left} aria-label="People kept out" className="min-w-0">
          <KeepOut view={t} antenna={antenna} width={leftWidth} />
        </section>
        <section ref={right} aria-label="Beam" className="min-w-0">
          <Beams view={t} detail={detail} width={rightWidth} />
        </section>
        {!t.circular && (
          <section aria-label="Cross-polar null" className="min-w-0">
            <Null view={t} width={leftWidth} />
          </section>
        )}
        <Record view={t} />
      </div>
    </div>
  );
}

function Gate({ view }: { view: TwoWayView }) {
  return (
    <div
      className={`flex flex-wrap items-center gap-x-6 gap-y-1 border-2 px-3 py-2 text-dense ${view.gate_open ? "border-ok" : "border-fail"}`}
    >
      <b
        className={`flex items-center gap-2 text-body ${view.gate_open ? "text-ok" : "text-fail"}`}
      >
        <TriangleAlert size={18} aria-hidden="true" />
        {view.gate_open
          ? "It may be switched to transmit by the certified installer"
          : "It must not transmit yet"}
      </b>
      {view.gate.map(([name, ok]) => (
        <span key={String(name)} className="flex items-center gap-1.5">
          <StateMark state={ok ? "ok" : "fail"} size={16} /> {name}
          <span className="sr-only">{ok ? "yes" : "no"}</span>
        </span>
      ))}
      <span className="text-muted">
        The provider's rules and local licensing have the last word.
      </span>
    </div>
  );
}

function Beams({ view, detail, width }: { view: TwoWayView; detail: AimDetail; width: number }) {
  const { edit } = useWrites();
  const job = useJob("beams", "site", "terminal");
  const notes = useView((view) => view.notes);
  const at = useShown();
  const [refused, refuse] = useState<Refusal | null>(null);
  const site = job.site!;
  const { remove } = useAimWrites(detail.aim.antenna);
  const mine = (job.beams ?? []).filter((b) => b.target === detail.aim.target);
  // One that was typed has no border to draw.
  const bordered = mine.filter((b) => (b.boundary ?? []).length > 2);
  const terminal = useSingle("terminal");
  const choose = (beam: string) => terminal({ beam });
  return (
    <>
      <Title note="by the place, from their borders">Beam</Title>
      {bordered.length > 0 && site.latitude_deg != null && site.longitude_deg != null && (
        <PictureRegion name="Beam map">
          <BeamMap
            beams={bordered}
            choice={view.beams}
            latitude={site.latitude_deg}
            longitude={site.longitude_deg}
            width={width}
          />
        </PictureRegion>
      )}
      <Table
        title="Beams"
        least={380}
        heads={
          <>
            <Head>code</Head>
            <Head>pol.</Head>
            <Head right>border {unitName("km", at)}</Head>
            <Head right>Es/N0 dB</Head>
            <Head>
              <span className="sr-only">Choose</span>
            </Head>
          </>
        }
      >
        {view.beams.map((b) => (
          <tr
            key={b.beam}
            className={`border-line border-b ${job.terminal?.beam === b.beam ? "bg-paper" : ""}`}
          >
            <th scope="row" className="py-1">
              <span className="flex items-center gap-2">
                <StateMark state={b.inside ? "ok" : "fail"} size={16} />
                <b>{b.name}</b>{" "}
                {b.border_km == null
                  ? "as its provider gave it"
                  : b.inside
                    ? "holds the place"
                    : "does not"}
              </span>
            </th>
            <Cell>{b.code}</Cell>
            <Cell>{b.polarisation}</Cell>
            <Cell right>
              {b.border_km == null ? "not known" : shown(b.border_km, "km", 0, at).figure}
            </Cell>
            <Cell right>{b.least_esn0_db == null ? "" : figureOf(b.least_esn0_db, 1)}</Cell>
            <td className="pl-3 text-right">
              {job.terminal?.beam === b.beam ? (
                "chosen"
              ) : (
                <span className="whitespace-nowrap">
                  <button type="button" className="mr-3 underline" onClick={() => choose(b.beam)}>
                    choose
                  </button>
                  <RemoveButton
                    label={`Remove beam ${b.name}`}
                    remove={() => remove("beams", b.beam)}
                  />
                </span>
              )}
            </td>
          </tr>
        ))}
      </Table>
      <NewBeam target={detail.aim.target} antenna={detail.aim.antenna} />
      <p className="m-0 mt-2 text-dense">
        <FilePick
          label="Beam file"
          accept=".json,.geojson"
          onFile={async (chosen) =>
            refuse(
              await edit(
                fileTo(`/beams?target=${detail.aim.target}`, "application/geo+json", chosen),
              ),
            )
          }
        >
          Beam borders from GeoJSON
        </FilePick>
      </p>
      <Why refused={refused} left={notes} />
    </>
  );
}

const NO_BEAM = { name: "", code: "", polarisation: "L", least_esn0_db: "" };

/** A beam as its provider gives it: name, code, polarisation, least Es/N0, without a border. */
function NewBeam({ target, antenna }: { target: string; antenna: string }) {
  const { beam } = useAimWrites(antenna);
  const [typed, set] = useState(NO_BEAM);
  const add = async () => {
    const said = await beam({ target, ...typed });
    if (!said) set((now) => (now === typed ? NO_BEAM : now));
    return said;
  };
  const field = (key: keyof typeof NO_BEAM, label: string, width: string, needed = false) => (
    <NewText
      label={label}
      value={typed[key]}
      change={(text) => set({ ...typed, [key]: text })}
      width={width}
      required={needed}
    />
  );
  return (
    <AddRow button="Add beam" add={add}>
      {field("name", "beam name", "w-28", true)}
      {field("code", "code or colour", "w-28")}
      <NewChoice
        label="Polarisation of the beam"
        value={typed.polarisation}
        change={(polarisation) => set({ ...typed, polarisation })}
        options={["L", "R", "H", "V"].map((p) => [p, p] as const)}
      />
      {field("least_esn0_db", "least Es/N0 dB", "w-32")}
    </AddRow>
  );
}

const STATES = [
  ["new", "not pointed yet"],
  ["pointed", "pointed"],
  ["ranged", "ranged"],
  ["commissioned", "commissioned"],
] as const;

function Record({ view }: { view: TwoWayView }) {
  const job = useJob("terminal");
  const t = job.terminal!;
  const [refused, refuse] = useState<Refusal | null>(null);
  const set = useSingle("terminal");
  return (
    <section aria-label="Record for the provider" className="text-dense leading-7">
      <Title note="goes with the job sheet and the job file">Record for the provider</Title>
      <div className="border-line border-t pt-1">
        Certified installer{" "}
        <TextField
          label="Certified installer"
          value={t.installer ?? ""}
          width={140}
          commit={(x) => set({ installer: x })}
        />{" "}
        certificate{" "}
        <TextField
          label="Certificate"
          value={t.licence ?? ""}
          width={100}
          commit={(x) => set({ licence: x })}
        />
        <br />
        <Tick
          label="The certificate was seen"
          on={t.licence_seen ?? false}
          onChange={(licence_seen) => set({ licence_seen })}
        />
        <br />
        It is{" "}
        <Choice
          label="State of the terminal"
          value={t.state ?? "new"}
          options={STATES}
          onChange={async (state) => refuse(await set({ state }))}
        />
        , sends{" "}
        <NumberField
          label="Sends of the time"
          value={t.duty_pct}
          unit="pct"
          digits={0}
          width={36}
          commit={(x) => set({ duty_pct: x })}
        />{" "}
        of the time
        <Why refused={refused} />
        <br />
        Es/N0 read{" "}
        <NumberField
          label="Es/N0 read"
          value={t.esn0_db}
          unit="db"
          width={44}
          commit={(x) => set({ esn0_db: x })}
        />
        , isolation read{" "}
        <NumberField
          label="Isolation read"
          value={t.isolation_db}
          unit="db"
          width={44}
          commit={(x) => set({ isolation_db: x })}
        />
        <GaugeLine
          name="Cable, unit to modem"
          gauge={view.cable}
          width={80}
          note={view.cable_origin}
        />
        <GaugeLine name="Es/N0 for this place" gauge={view.es_n0} width={80} />
        {!view.circular && (
          <GaugeLine
            name={t.isolation_db == null ? "Isolation, predicted" : "Isolation"}
            gauge={view.isolation_now}
            width={80}
            note={
              t.isolation_db == null
                ? `for skew off by ${figureOf(t.skew_error_deg ?? 0, 1)}°`
                : undefined
            }
          />
        )}
      </div>
    </section>
  );
}
