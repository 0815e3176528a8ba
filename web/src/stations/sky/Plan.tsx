import { Answer, AnswerStrip, BigFigure, Digits } from "../../instruments/Figure";
import { Skyline } from "../../instruments/Skyline";
import { NumberField } from "../../instruments/Value";
import { useJob } from "../../service/job";
import { Problems } from "../../shell/Problems";
import { useWrites } from "../edits";
import { Obstructions } from "./Obstructions";
import { Targets } from "./Targets";

export default function SkyPlan() {
  const { view } = useJob();
  const { site: write } = useWrites();
  const { sky, aim } = view.answers;
  const site = view.job.site!;
  const transmitter = sky.targets.find((t) => t.field_dbuvm != null);
  return (
    <>
      <AnswerStrip>
        <Answer
          title="targets clear"
          more={sky.targets.length ? "of those that this job wants" : "add one below"}
          state={sky.state}
        >
          <span className="whitespace-nowrap">
            <Digits text={String(sky.clear)} />
            <span className="mx-2 text-[22px]">of</span>
            <Digits text={String(sky.targets.length)} />
          </span>
        </Answer>
        <Answer
          title="least clearance"
          more={sky.least_target ? `${sky.least_target} over the skyline` : "no satellite yet"}
        >
          {sky.least.value != null && sky.least.value > 90 ? (
            <span className="text-[22px]">nothing in the way</span>
          ) : (
            <BigFigure
              value={sky.least.value}
              unit="deg"
              tone={sky.least.state === "out" ? "out" : undefined}
            />
          )}
        </Answer>
        <Answer
          title={transmitter ? `field from ${transmitter.name}` : "field strength"}
          more="free space, strongest carrier"
        >
          <BigFigure value={transmitter?.field_dbuvm} unit="dbuvm" />
        </Answer>
      </AnswerStrip>
      <Skyline
        targets={sky.targets}
        skyline={sky.skyline}
        arc={sky.arc as [number, number, number][]}
        keepClear={sky.keep_clear_deg}
        declination={aim.declination_deg ?? null}
        label={`Skyline: ${sky.figure}`}
      >
        <h2 className="m-0 mb-1 font-bold text-[15px]">Skyline from the mount</h2>
        <p className="m-0">
          <NumberField
            label="Mount above ground"
            value={site.mount_height_m}
            unit="m"
            width={44}
            commit={(t) => write({ mount_height_m: t })}
          />{" "}
          above ground
        </p>
        <p className="m-0 mt-1">
          Keep clear{" "}
          <NumberField
            label="Keep clear"
            value={site.keep_clear_deg ?? sky.keep_clear_deg}
            unit="deg"
            width={40}
            commit={(t) => write({ keep_clear_deg: t })}
          />{" "}
          round a satellite
        </p>
      </Skyline>
      <div className="grid grid-cols-1 gap-8 px-6 py-4 max-md:px-4">
        {sky.problems.length > 0 && <Problems rows={sky.problems} />}
        <Targets />
        <Obstructions />
      </div>
    </>
  );
}
