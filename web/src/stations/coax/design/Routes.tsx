import { NumberField } from "../../../parts/Value";
import type { Refusal, Wish, WishLine } from "../../../service/client";
import { useJob } from "../../../service/job";

type Read = (wish: Wish, typed: WishLine) => Promise<Refusal | null>;

/** Where outlets hang: riser, floor of it from the head, and the drop. */
export function Routes({ wish, read }: { wish: Wish; read: Read }) {
  const job = useJob("outlets");
  const names = new Map((job.outlets ?? []).map((o) => [o.id, o]));
  const line = (outlet: string, field: WishLine["field"]) => (text: string) =>
    read(wish, { field, text, outlet });
  return (
    <details className="border-line border-b py-2 text-dense">
      <summary className="cursor-pointer">
        Where the {wish.routes?.length ?? 0} outlets hang, from the run as it is
      </summary>
      <div className="flex flex-wrap gap-x-6 py-2">
        <NumberField
          label="From the head to its first floor"
          hideLabel={false}
          value={wish.head_m}
          unit="m"
          commit={(text) => read(wish, { field: "head_m", text, outlet: "" })}
        />
        <NumberField
          label="from floor to floor"
          hideLabel={false}
          value={wish.floor_m}
          unit="m"
          commit={(text) => read(wish, { field: "floor_m", text, outlet: "" })}
        />
      </div>
      <div className="max-h-72 overflow-auto">
        <table className="w-full max-w-2xl border-collapse">
          <thead>
            <tr className="border-line border-b text-left">
              <th>Outlet</th>
              <th>riser</th>
              <th>floors from the head</th>
              <th>drop from the riser</th>
            </tr>
          </thead>
          <tbody>
            {wish.routes?.map((r) => {
              const name = names.get(r.outlet)?.name ?? r.outlet;
              return (
                <tr key={r.outlet} className="border-line border-b">
                  <th scope="row" className="py-0.5 text-left font-normal">
                    {name} <span className="text-muted">{names.get(r.outlet)?.floor}</span>
                  </th>
                  <td>
                    <NumberField
                      label={`Riser of ${name}`}
                      value={r.riser}
                      unit="count"
                      digits={0}
                      width={40}
                      commit={line(r.outlet, "riser")}
                    />
                  </td>
                  <td>
                    <NumberField
                      label={`Floors to ${name}`}
                      value={r.floor}
                      unit="count"
                      digits={0}
                      width={40}
                      commit={line(r.outlet, "floor")}
                    />
                  </td>
                  <td>
                    <NumberField
                      label={`Drop to ${name}`}
                      value={r.drop_m}
                      unit="m"
                      width={56}
                      commit={line(r.outlet, "drop_m")}
                    />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </details>
  );
}
