import { GaugeLine } from "../../instruments/GaugeLine";
import { Title } from "../../parts/table";
import { Choice, NumberField, TextField, Tick } from "../../parts/Value";
import type { Gauge } from "../../service/client";
import { useJob } from "../../service/job";
import { useSingle } from "../../service/rows";

const PLANS = [
  ["none", "there is none, or it is not touched"],
  ["leave", "it is left for the own antenna"],
  ["both", "it stays beside the own antenna"],
] as const;

/** The cable company's line: what becomes of it, what was read at its drop. */
export function CompanyLine() {
  const { view } = useJob();
  const c = view.job.company!;
  const set = useSingle("company");
  const problem = (code: string, place?: string): Gauge | null =>
    view.answers.coax.problems.find((p) => p.code === code && (!place || p.place === place))
      ?.gauge ?? null;
  const number = (
    label: string,
    key: "low_mhz" | "high_mhz" | "low_dbuv" | "high_dbuv" | "return_noise_dbuv" | "watched_s",
    unit: "mhz" | "dbuv" | "count",
  ) => (
    <NumberField
      label={label}
      value={c[key]}
      unit={unit}
      digits={unit === "mhz" || unit === "count" ? 0 : 1}
      width={52}
      commit={(t) => set({ [key]: t.trim() ? t : null })}
    />
  );
  return (
    <section aria-label="Cable company's line" className="mt-5 max-w-4xl text-dense">
      <Title>Cable company's line</Title>
      <p className="m-0">
        <Choice
          label="Company's line"
          value={(c.plan ?? "none") as (typeof PLANS)[number][0]}
          options={PLANS}
          onChange={(plan) => set({ plan })}
        />
      </p>
      {c.plan !== "none" && (
        <div className="mt-2 grid gap-1.5">
          <p className="m-0 border-2 border-brick p-2">
            <b>Never joined:</b> an antenna or an amplifier on the company's line disturbs the whole
            street. What belongs to the company only the company opens; its earth stays on.
          </p>
          <p className="m-0 flex flex-wrap gap-x-6">
            <Tick
              label="Each line is known and labelled at both ends"
              on={c.lines_known ?? false}
              onChange={(lines_known) => set({ lines_known })}
            />
            {c.plan === "leave" && (
              <Tick
                label="The company's line is unplugged and capped"
                on={c.unplugged ?? false}
                onChange={(unplugged) => set({ unplugged })}
              />
            )}
            {c.plan === "both" && (
              <Tick
                label="High pass on branches without a modem"
                on={c.filter_fitted ?? false}
                onChange={(filter_fitted) => set({ filter_fitted })}
              />
            )}
          </p>
          <p className="m-0">
            At the drop {number("Level at the lowest carrier", "low_dbuv", "dbuv")} at{" "}
            {number("Lowest carrier", "low_mhz", "mhz")},{" "}
            {number("Level at the highest carrier", "high_dbuv", "dbuv")} at{" "}
            {number("Highest carrier", "high_mhz", "mhz")}
            {c.low_dbuv != null && c.high_dbuv != null && (
              <>
                : it leans by <b className="num">{Math.abs(c.low_dbuv - c.high_dbuv).toFixed(1)}</b>{" "}
                dB
              </>
            )}
          </p>
          {c.plan === "both" && (
            <p className="m-0">
              Worst return noise {number("Worst return noise", "return_noise_dbuv", "dbuv")} watched
              for {number("Watched for, s", "watched_s", "count")} s
            </p>
          )}
          {problem("drop-tilt") && <GaugeLine name="Tilt" gauge={problem("drop-tilt")!} />}
          {problem("return-noise") && (
            <GaugeLine name="Return noise" gauge={problem("return-noise")!} />
          )}
          <p className="m-0">
            <TextField
              label="Note on the lines"
              hideLabel={false}
              value={c.note ?? ""}
              width={420}
              placeholder="which line goes where"
              commit={(note) => set({ note })}
            />
          </p>
        </div>
      )}
    </section>
  );
}
