import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { AddRow, NewChoice, NewText, RemoveButton, RemoveHead } from "../../parts/rows";
import { FilePick, NumberField, TextField, Why } from "../../parts/Value";
import { client, type Refusal } from "../../service/client";
import { useJob, useJobId, useWrites } from "../../service/job";
import { fileTo } from "../../service/pages";
import { told } from "../../service/refusals";
import { useRows } from "../../service/rows";

/** The multiplexes or transponders of one target. */
export function Carriers({ target, kind }: { target: string; kind: string }) {
  const job = useJob("carriers");
  const carriers = useRows("carriers");
  const rows = (job.carriers ?? []).filter((c) => c.target === target);
  const satellite = kind === "satellite";
  const set = (id: string, body: Record<string, string>) => carriers.set(id, body);
  const remove = (id: string) => carriers.remove(id);
  return (
    <>
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-line border-b text-muted">
            <th scope="col">name</th>
            <th scope="col" className="text-right">
              MHz
            </th>
            <th scope="col" className="text-right">
              {satellite ? "symbol rate, MBd" : "bandwidth, MHz"}
            </th>
            <th scope="col" className="pl-6">
              pol.
            </th>
            <th scope="col" className="text-right">
              {satellite ? "EIRP, dBW" : "ERP, kW"}
            </th>
            <th scope="col" className="pl-6">
              modulation
            </th>
            <RemoveHead />
          </tr>
        </thead>
        <tbody>
          {rows.map((c) => (
            <tr key={c.id} className="border-line border-b">
              <th scope="row">
                <TextField
                  label={`Name of ${c.name}`}
                  value={c.name}
                  width={110}
                  commit={(t) => set(c.id, { name: t })}
                />
              </th>
              <td className="py-1 text-right">
                <TextField
                  label={`${c.name} frequency, MHz`}
                  number
                  value={String(c.frequency_mhz)}
                  width={76}
                  commit={(t) => set(c.id, { frequency: t })}
                />
              </td>
              <td className="text-right">
                <NumberField
                  label={`${c.name} bandwidth`}
                  value={c.bandwidth_mhz}
                  unit="mhz"
                  showUnit={false}
                  digits={2}
                  commit={(t) => set(c.id, { bandwidth_mhz: t })}
                />
              </td>
              <td className="num pl-6">{c.polarisation}</td>
              <td className="text-right">
                <TextField
                  label={`${c.name} power`}
                  number
                  value={String(c.power)}
                  width={56}
                  commit={(t) => set(c.id, { power: t })}
                />
              </td>
              <td className="pl-6">{c.modulation}</td>
              <td className="text-right">
                <RemoveButton label={`Remove ${c.name}`} remove={() => remove(c.id)} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <NewCarrier target={target} satellite={satellite} />
      <CsvBar />
    </>
  );
}

function NewCarrier({ target, satellite }: { target: string; satellite: boolean }) {
  const carriers = useRows("carriers");
  const modulations = useQuery({
    queryKey: ["modulations"],
    queryFn: () => told(client.GET("/api/modulations")),
  });
  const list = (modulations.data ?? []).filter((m) => m.system.startsWith("DVB-S") === satellite);
  const start = satellite
    ? {
        name: "",
        frequency: "",
        bandwidth: "27.5",
        power: "50",
        modulation: "DVB-S2 8PSK 2/3",
        polarisation: "H",
      }
    : {
        name: "",
        frequency: "",
        bandwidth: "7.61",
        power: "10",
        modulation: "DVB-T 64QAM 2/3",
        polarisation: "H",
      };
  const [form, setForm] = useState(start);
  const put = (part: Partial<typeof start>) => setForm((now) => ({ ...now, ...part }));
  const add = async () => {
    const { frequency, bandwidth, ...rest } = form;
    const said = await carriers.add({
      ...rest,
      target,
      name: form.name || frequency,
      frequency_mhz: frequency,
      bandwidth_mhz: bandwidth,
    });
    // What was typed while the answer was on its way stays.
    if (!said) setForm((now) => (now === form ? { ...now, name: "", frequency: "" } : now));
    return said;
  };
  const field = (key: keyof typeof start, label: string, width: string, hint = "") => (
    <NewText
      label={label}
      value={form[key]}
      change={(text) => put({ [key]: text })}
      width={width}
      hint={hint}
      required={key === "frequency"}
    />
  );
  return (
    <AddRow button="Add carrier" add={add}>
      {field("name", "Carrier name", "w-28", "name")}
      {field("frequency", "Carrier frequency", "w-28", satellite ? "11778" : "ch 36 or 594")}
      {field("bandwidth", satellite ? "Symbol rate, MBd" : "Bandwidth, MHz", "w-16")}
      <NewChoice
        label="Polarisation"
        value={form.polarisation}
        change={(polarisation) => put({ polarisation })}
        options={["H", "V", "L", "R"].map((p) => [p, p] as const)}
      />
      {field("power", satellite ? "EIRP, dBW" : "ERP, kW", "w-16")} {satellite ? "dBW" : "kW"}
      <NewChoice
        label="Modulation"
        value={form.modulation}
        change={(modulation) => put({ modulation })}
        options={list.map((m) => [m.code, m.code] as const)}
      />
    </AddRow>
  );
}

/** Carriers as CSV, in and out. */
function CsvBar() {
  const { edit } = useWrites();
  const jobId = useJobId();
  const [refused, refuse] = useState<Refusal | null>(null);
  return (
    <p className="m-0 mt-3 flex flex-wrap items-center gap-4 text-dense">
      <a href={`/api/jobs/${jobId}/carriers.csv`} download>
        Carriers as CSV
      </a>
      <FilePick
        label="CSV file"
        accept=".csv,text/csv"
        onFile={async (f) => refuse(await edit(fileTo("/csv?kind=carriers", "text/csv", f)))}
      >
        Import carriers
      </FilePick>
      <Why refused={refused} />
    </p>
  );
}
