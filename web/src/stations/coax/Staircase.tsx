import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Choice } from "../../parts/Value";
import { client, type NetworkCarrier } from "../../service/client";
import { useJobId, useView } from "../../service/job";
import { told } from "../../service/refusals";
import { Say, useShown } from "../../units/showing";
import { figureOf, shown } from "../../units/units";

/** How one carrier's level comes about, from the source to here. */
export function Staircase({
  part,
  channels,
  start,
}: {
  part: string;
  channels: NetworkCarrier[];
  start: string;
}) {
  const jobId = useJobId();
  const revision = useView((view) => view.revision);
  const at = useShown();
  const [chosen, choose] = useState<string | null>(null);
  const carrier = channels.some((l) => l.id === chosen) ? chosen! : start;
  const terms = useQuery({
    queryKey: ["terms", jobId, revision, part, carrier],
    placeholderData: (old) => old,
    queryFn: () =>
      told(
        client.GET("/api/jobs/{job_id}/parts/{row_id}/terms", {
          params: { path: { job_id: jobId, row_id: part }, query: { carrier } },
        }),
      ),
  });
  const rows = terms.data?.level ?? [];
  const quality = terms.data?.quality ?? [];
  const cn = terms.data?.cn_db;
  if (!channels.length) return null;
  const levels = rows.map((t) => t.level_dbuv);
  const low = Math.min(...levels);
  const span = Math.max(Math.max(...levels) - low, 1);
  const x = (level: number) => 4 + ((level - low) / span) * 56;
  return (
    <section aria-label="How the level comes about" className="border-line border-t pt-2">
      <h3 className="m-0 flex items-baseline justify-between text-dense font-bold">
        How{" "}
        <Choice
          label="Carrier"
          value={carrier}
          options={channels.map(
            (l) => [l.id, `${l.frequency_mhz.toFixed(0)} MHz, ${l.name}`] as const,
          )}
          onChange={choose}
          width={130}
        />
        <span className="font-normal text-muted">{shown(0, "dbuv", 0, at).unit}, then dB</span>
      </h3>
      <table className="w-full border-collapse text-dense">
        <tbody>
          {rows.map((t, i) => {
            const before = rows[i - 1]?.level_dbuv ?? t.level_dbuv;
            return (
              <tr key={i}>
                <th scope="row" className="max-w-[128px] truncate">
                  <Say it={t.name} />
                </th>
                <td className="w-16">
                  <svg width="64" height="18" aria-hidden="true">
                    <path
                      d={`M${x(before)} 0V9H${x(t.level_dbuv)}V18`}
                      fill="none"
                      stroke="var(--color-copper)"
                      strokeWidth={Math.abs(t.change_db) > 8 ? 4 : 1.8}
                    />
                  </svg>
                </td>
                <td className="num text-right">
                  {i === 0
                    ? shown(t.level_dbuv, "dbuv", 1, at).figure
                    : `${t.change_db > 0 ? "+" : ""}${figureOf(t.change_db, 1)}`}
                </td>
              </tr>
            );
          })}
          {rows.length > 1 && (
            <tr className="border-line border-t font-bold">
              <th scope="row" className="font-bold">
                Here
              </th>
              <td />
              <td className="num text-right">
                {shown(levels[levels.length - 1] ?? 0, "dbuv", 1, at).figure}
              </td>
            </tr>
          )}
        </tbody>
      </table>
      {cn != null && quality.length > 0 && (
        <>
          <h3 className="m-0 flex items-baseline justify-between pt-2 text-dense">
            <b>What its quality is made of</b>
            <span className="text-muted">C/N, dB</span>
          </h3>
          <table className="w-full border-collapse text-dense">
            <tbody>
              {quality.map((t, i) => (
                <tr key={i}>
                  <th scope="row" className="max-w-[146px] truncate">
                    <Say it={t.name} />
                  </th>
                  <td className="w-16">
                    <svg width="64" height="12" aria-hidden="true">
                      {/* Its share of all that is not the carrier. */}
                      <rect
                        x="4"
                        y="4"
                        width={Math.max(56 * t.share, 1)}
                        height="5"
                        fill="var(--color-rail)"
                      />
                    </svg>
                  </td>
                  <td className="num text-right">{figureOf(t.cn_db, 1)}</td>
                </tr>
              ))}
              <tr className="border-line border-t">
                <th scope="row" className="font-bold">
                  Together
                </th>
                <td />
                <td className="num text-right font-bold">{figureOf(cn, 1)}</td>
              </tr>
            </tbody>
          </table>
        </>
      )}
      {(terms.data?.over_mhz?.length ?? 0) > 1 && (
        <OverWidth points={terms.data!.over_mhz as [number, number][]} />
      )}
    </section>
  );
}

const HIGH = 46;
const WIDE = 268;

/** How the level goes over the width of a carrier: what echoes and cables make of it. */
function OverWidth({ points }: { points: [number, number][] }) {
  const offs = points.map((p) => p[1]);
  const top = Math.max(...offs, 0.5);
  const bottom = Math.min(...offs, -0.5);
  const first = points[0]![0];
  const last = points[points.length - 1]![0];
  const x = (f: number) => ((f - first) / Math.max(last - first, 1e-6)) * WIDE;
  const y = (d: number) => 3 + ((top - d) / (top - bottom)) * (HIGH - 6);
  const from = Math.max(...offs) - Math.min(...offs);
  return (
    <figure className="m-0 pt-2" aria-label="Level over its width">
      <figcaption className="flex items-baseline justify-between text-dense">
        <b>Over its width</b>
        <span className="text-muted">
          <span className="num">{figureOf(from, 1)}</span> dB from top to bottom
        </span>
      </figcaption>
      <svg
        width={WIDE}
        height={HIGH + 14}
        role="img"
        aria-label={`${figureOf(from, 1)} dB from top to bottom`}
      >
        <line x1="0" x2={WIDE} y1={y(0)} y2={y(0)} stroke="var(--color-line)" />
        <path
          d={points
            .map(([f, d], i) => `${i ? "L" : "M"}${x(f).toFixed(1)} ${y(d).toFixed(1)}`)
            .join("")}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth="1.8"
        />
        <text x="0" y={HIGH + 12} fontSize="11" className="mono">
          {first.toFixed(1)}
        </text>
        <text x={WIDE} y={HIGH + 12} fontSize="11" className="mono" textAnchor="end">
          {last.toFixed(1)} MHz
        </text>
      </svg>
    </figure>
  );
}
