import { scaleLinear, scaleLog } from "d3-scale";
import { line } from "d3-shape";
import { TriangleAlert } from "lucide-react";
import { useRef, useState } from "react";
import { BeamMap } from "../../instruments/BeamMap";
import { Answer, BigFigure } from "../../instruments/Figure";
import { GaugeLine } from "../../instruments/GaugeLine";
import { StateMark } from "../../instruments/StateMark";
import { Cell, Head, Table, Title } from "../../instruments/table";
import { useWidth } from "../../instruments/useWidth";
import { Choice, NumberField, TextField, Tick } from "../../instruments/Value";
import {
  type AimDetail,
  type Antenna,
  client,
  type Refusal,
  type TwoWayView,
} from "../../service/client";
import { useJob } from "../../service/job";
import { fileTo } from "../../service/pages";
import { figureOf } from "../../shell/units";
import { useWrites } from "../edits";
import { useAimWrites } from "./useAimWrites";

/** A dish that transmits: the gate, people kept out, the beam, the null, the provider's record. */
export function TwoWay({ detail, antenna }: { detail: AimDetail; antenna: Antenna }) {
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
        <section aria-label="Cross-polar null" className="min-w-0">
          <Null view={t} width={leftWidth} />
        </section>
        <Record view={t} />
      </div>
    </div>
  );
}

function Gate({ view }: { view: TwoWayView }) {
  return (
    <div
      className={`flex flex-wrap items-center gap-x-6 gap-y-1 border-2 px-3 py-2 text-[13px] ${view.gate_open ? "border-verdigris" : "border-brick"}`}
    >
      <b
        className={`flex items-center gap-2 text-[15px] ${view.gate_open ? "text-verdigris" : "text-brick"}`}
      >
        <TriangleAlert size={18} aria-hidden="true" />
        {view.gate_open
          ? "It may be switched to transmit by the certified installer"
          : "It must not transmit yet"}
      </b>
      {view.gate.map(([name, ok]) => (
        <span key={String(name)} className="flex items-center gap-1.5">
          <StateMark state={ok ? "in" : "out"} size={16} /> {name}
          <span className="sr-only">{ok ? "yes" : "no"}</span>
        </span>
      ))}
      <span className="text-quiet">
        The provider's rules and local licensing have the last word.
      </span>
    </div>
  );
}

function KeepOut({ view, antenna, width }: { view: TwoWayView; antenna: Antenna; width: number }) {
  const { set } = useAimWrites(antenna.id);
  const f = view.field;
  const curve = f.curve as number[][];
  const x = scaleLog([curve[0]![0]!, curve[curve.length - 1]![0]!], [44, width - 10]);
  const values = curve.map((c) => c[1]!);
  const y = scaleLog([Math.min(...values, 0.5) * 0.6, Math.max(...values, 5) * 1.8], [150, 10]);
  const path = line<number[]>(
    (c) => x(c[0]!),
    (c) => y(c[1]!),
  );
  return (
    <>
      <div className="flex max-md:grid max-md:grid-cols-2">
        <Answer
          title="keep people out of the beam for"
          more="on its axis; and one dish diameter aside always"
        >
          <BigFigure value={view.keep_out_m} unit="m" />
        </Answer>
        <Answer
          title="strongest in front of the dish"
          more={`anybody 1, trained 5 mW/cm²; ${view.origin}`}
        >
          <span className="whitespace-nowrap">
            <BigFigure value={Math.max(f.near_mw_cm2, f.surface_mw_cm2)} unit="count" digits={2} />{" "}
            <span className="text-[20px]">mW/cm²</span>
          </span>
        </Answer>
      </div>
      <svg
        width={width}
        height="182"
        role="img"
        aria-label={`Power density, at most ${figureOf(f.near_mw_cm2, 2)} milliwatts a square centimetre`}
        className="block"
      >
        {[1, 5].map((v) => (
          <g key={v}>
            <line
              x1="44"
              x2={width - 10}
              y1={y(v)}
              y2={y(v)}
              stroke="var(--color-ink)"
              strokeDasharray="2 4"
            />
            <text x="40" y={y(v) + 4} textAnchor="end" fontSize="12" className="mono">
              {v}
            </text>
          </g>
        ))}
        <path d={path(curve) ?? ""} fill="none" stroke="var(--color-copper)" strokeWidth="2.5" />
        {[0.5, 1, 2, 5, 10, 20, 50, 100, 200]
          .filter((v) => v > curve[0]![0]! && v < curve[curve.length - 1]![0]!)
          .map((v) => (
            <g key={v}>
              <line x1={x(v)} x2={x(v)} y1="150" y2="155" stroke="var(--color-ink)" />
              <text x={x(v)} y="170" textAnchor="middle" fontSize="12" className="mono">
                {v}
              </text>
            </g>
          ))}
        <line x1="44" x2={width - 10} y1="150" y2="150" stroke="var(--color-rail)" />
        <text x={width - 10} y="146" textAnchor="end" fontSize="12">
          m from the dish
        </text>
      </svg>
      <p className="m-0 text-[13px] leading-6">
        Sends{" "}
        <NumberField
          label="Transmit power"
          value={antenna.transmit_w}
          unit="count"
          width={36}
          commit={(t) => set({ transmit_w: t })}
        />{" "}
        W at{" "}
        <NumberField
          label="Transmit frequency"
          value={antenna.transmit_mhz}
          unit="mhz"
          digits={0}
          width={52}
          commit={(t) => set({ transmit_mhz: t })}
        />
        . Near field to {figureOf(f.near_to_m, 1)} m, far field from {figureOf(f.far_from_m, 1)} m.
        No hand and no head before the horn unless it certainly cannot transmit.
      </p>
    </>
  );
}

function Beams({ view, detail, width }: { view: TwoWayView; detail: AimDetail; width: number }) {
  const { view: job } = useJob();
  const { edit } = useWrites();
  const file = useRef<HTMLInputElement>(null);
  const [refused, refuse] = useState<Refusal | null>(null);
  const site = job.job.site!;
  const mine = (job.job.beams ?? []).filter((b) => b.target === detail.aim.target);
  const choose = (beam: string) =>
    edit((a) =>
      client.PATCH("/api/jobs/{job_id}/terminal", { params: a, body: { beam } as never }),
    );
  return (
    <>
      <Title note="by the place, from their borders">Beam</Title>
      {mine.length > 0 && site.latitude_deg != null && site.longitude_deg != null && (
        <BeamMap
          beams={mine}
          choice={view.beams}
          latitude={site.latitude_deg}
          longitude={site.longitude_deg}
          width={width}
        />
      )}
      <Table
        title="Beams"
        least={380}
        heads={
          <>
            <Head>code</Head>
            <Head>pol.</Head>
            <Head right>border km</Head>
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
            className={`border-line border-b ${job.job.terminal?.beam === b.beam ? "bg-paper" : ""}`}
          >
            <th scope="row" className="py-1">
              <span className="flex items-center gap-2">
                <StateMark state={b.inside ? "in" : "out"} size={16} />
                <b>{b.name}</b> {b.inside ? "holds the place" : "does not"}
              </span>
            </th>
            <Cell>{b.code}</Cell>
            <Cell>{b.polarisation}</Cell>
            <Cell right>{figureOf(b.border_km, 0)}</Cell>
            <Cell right>{b.least_esn0_db == null ? "" : figureOf(b.least_esn0_db, 1)}</Cell>
            <td className="pl-3 text-right">
              {job.job.terminal?.beam === b.beam ? (
                "chosen"
              ) : (
                <button type="button" className="underline" onClick={() => choose(b.beam)}>
                  choose
                </button>
              )}
            </td>
          </tr>
        ))}
      </Table>
      <p className="m-0 mt-2 text-[13px]">
        <button type="button" className="plain-button" onClick={() => file.current?.click()}>
          Beam borders from GeoJSON
        </button>
        <input
          ref={file}
          type="file"
          accept=".json,.geojson"
          aria-label="Beam file"
          className="sr-only"
          tabIndex={-1}
          onChange={async (e) => {
            const chosen = e.target.files?.[0];
            e.target.value = "";
            if (chosen)
              refuse(
                await edit(
                  fileTo(`/beams?target=${detail.aim.target}`, "application/geo+json", chosen),
                ),
              );
          }}
        />
      </p>
      {(refused || (job.notes ?? []).length > 0) && (
        <p role="alert" className="m-0 mt-1 text-[13px] text-brick">
          {refused ? `${refused.field}: ${refused.detail} ${refused.remedy}` : job.notes?.join(" ")}
        </p>
      )}
    </>
  );
}

function Null({ view, width }: { view: TwoWayView; width: number }) {
  const rows = view.isolation as number[][];
  const x = scaleLinear([-10, 10], [36, width - 10]);
  const y = scaleLinear([10, 38], [140, 10]);
  const path = line<number[]>(
    (c) => x(c[0]!),
    (c) => y(Math.max(c[1]!, 10)),
  );
  const low = view.isolation_now.low ?? 25;
  const allowed = view.skew_allowed_deg ?? 0;
  return (
    <>
      <Title note="turn slowly, watch the other polarisation, stop at its least">
        Cross-polar null
      </Title>
      <svg
        width={width}
        height="172"
        role="img"
        aria-label={`Isolation against skew error, ${figureOf(low, 0)} dB within ${figureOf(allowed, 1)} degrees`}
        className="block"
      >
        {[15, 20, 25, 30, 35].map((v) => (
          <g key={v}>
            <line x1="36" x2={width - 10} y1={y(v)} y2={y(v)} stroke="var(--color-line)" />
            <text x="30" y={y(v) + 4} textAnchor="end" fontSize="12" className="mono">
              {v}
            </text>
          </g>
        ))}
        <path d={path(rows) ?? ""} fill="none" stroke="var(--color-copper)" strokeWidth="2.5" />
        <path
          d={`M${x(-allowed) + 6} 134H${x(-allowed)}V150H${x(-allowed) + 6}M${x(allowed) - 6} 134H${x(allowed)}V150H${x(allowed) - 6}`}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="2"
        />
        <line x1="36" x2={width - 10} y1="142" y2="142" stroke="var(--color-rail)" />
        {[-10, -5, 0, 5, 10].map((v) => (
          <text
            key={v}
            x={x(v)}
            y="166"
            textAnchor={v === 10 ? "end" : "middle"}
            fontSize="12"
            className="mono"
          >
            {figureOf(v, 0)}°
          </text>
        ))}
      </svg>
      <p className="m-0 text-[13px]">
        Within <b className="num">±{figureOf(allowed, 1)}°</b> of skew the other polarisation lies{" "}
        {figureOf(low, 0)} dB under.
      </p>
    </>
  );
}

const STATES = [
  ["new", "not pointed yet"],
  ["pointed", "pointed"],
  ["ranged", "ranged"],
  ["commissioned", "commissioned"],
] as const;

function Record({ view }: { view: TwoWayView }) {
  const { view: job } = useJob();
  const { edit } = useWrites();
  const t = job.job.terminal!;
  const set = (body: Record<string, unknown>) =>
    edit((a) => client.PATCH("/api/jobs/{job_id}/terminal", { params: a, body: body as never }));
  return (
    <section aria-label="Record for the provider" className="text-[13px] leading-7">
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
          onChange={(state) => set({ state })}
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
      </div>
    </section>
  );
}
