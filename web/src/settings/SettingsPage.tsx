import { Choice } from "../parts/Value";
import { changeSettings as change, useProfiles, useSettings } from "../service/settings";
import { OuterFrame } from "../shell/OuterFrame";

export default function SettingsPage() {
  const s = useSettings();
  const profiles = useProfiles();
  return (
    <OuterFrame title="Settings">
      <p className="m-0 mb-4 max-w-xl text-dense text-muted">Saved on this device only.</p>
      <dl className="grid max-w-xl grid-cols-[180px_minmax(0,1fr)] gap-y-3 max-md:grid-cols-[110px_minmax(0,1fr)] [&_select]:max-w-full">
        <dt>Day or night</dt>
        <dd className="m-0">
          <Choice
            label="Theme"
            value={s.theme}
            onChange={(theme) => change({ theme })}
            options={[
              ["system", "as the machine"],
              ["day", "day"],
              ["night", "night"],
              ["sun", "sun, highest contrast"],
            ]}
          />
        </dd>
        <dt>Units</dt>
        <dd className="m-0">
          <Choice
            label="Units"
            value={s.units}
            onChange={(units) => change({ units })}
            options={[
              ["profile", "as the job's practice"],
              ["metric", "metric"],
              ["us", "US"],
            ]}
          />
        </dd>
        <dt>Level</dt>
        <dd className="m-0">
          <Choice
            label="Level unit"
            value={s.level}
            onChange={(level) => change({ level })}
            options={[
              ["profile", "as the job's practice"],
              ["dbuv", "dBµV"],
              ["dbmv", "dBmV"],
              ["dbm", "dBm"],
            ]}
          />
        </dd>
        <dt>North</dt>
        <dd className="m-0">
          <Choice
            label="North"
            value={s.north}
            onChange={(north) => change({ north })}
            options={[
              ["true", "true, °T"],
              ["compass", "compass, °M"],
            ]}
          />
        </dd>
        <dt>Letter keys</dt>
        <dd className="m-0">
          <Choice
            label="Letter keys"
            value={s.keys}
            onChange={(keys) => change({ keys })}
            options={[
              ["on", "on, in the focused station"],
              ["off", "off"],
            ]}
          />
        </dd>
      </dl>
      <h2 className="mt-8 mb-2 text-body font-semibold">Practice profiles</h2>
      <p className="m-0 mb-2 max-w-2xl text-dense text-muted">
        Limits of each region with their origin. Local codes and licensed practice have the last
        word.
      </p>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-dense">
          <thead>
            <tr className="border-line border-b text-muted">
              <th scope="col" className="py-1.5">
                Profile
              </th>
              <th scope="col">System</th>
              <th scope="col" className="text-right">
                from dBµV
              </th>
              <th scope="col" className="pr-6 text-right">
                to dBµV
              </th>
              <th scope="col">origin</th>
            </tr>
          </thead>
          <tbody>
            {profiles.flatMap((p) =>
              Object.entries(p.windows).map(([system, w], i) => (
                <tr key={`${p.key}${system}`} className="border-line border-b">
                  <th
                    scope="row"
                    className={`py-1 font-semibold ${i === 0 ? "" : "font-normal text-muted"}`}
                  >
                    {p.name}
                  </th>
                  <td>{system}</td>
                  <td className="num text-right">{w.low_dbuv.toFixed(1)}</td>
                  <td className="num pr-6 text-right">{w.high_dbuv.toFixed(1)}</td>
                  <td className="text-muted">{w.origin}</td>
                </tr>
              )),
            )}
          </tbody>
        </table>
      </div>
    </OuterFrame>
  );
}
