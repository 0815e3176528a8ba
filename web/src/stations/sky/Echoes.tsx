import { EchoPattern } from "../../instruments/EchoPattern";
import { StateWord } from "../../instruments/StateMark";
import { useWidth } from "../../instruments/useWidth";
import { PictureRegion } from "../../parts/PictureRegion";
import { Cell, Head, Table, Title } from "../../parts/table";
import { NumberField } from "../../parts/Value";
import type { MuxLine, PathView } from "../../service/client";
import { useJob } from "../../service/job";
import { useRows } from "../../service/rows";
import { figureOf } from "../../units/units";

/** The single-frequency network of a transmitter's multiplexes: what helps and what disturbs. */
export function Echoes({ path }: { path: PathView }) {
  const networked = path.muxes.filter((m) => m.network);
  const [ref, width] = useWidth<HTMLDivElement>(560);
  const first = networked[0];
  if (!first?.network) return null;
  const net = first.network;
  return (
    <section ref={ref} aria-label="Single-frequency network" className="min-w-0 text-dense">
      <Title note={`guard interval ${figureOf(net.guard_us, 0)} µs, ${net.origin}`}>
        Echo pattern of {first.name}
      </Title>
      <PictureRegion name="Echo pattern">
        <EchoPattern echoes={net.echoes} start={net.start_us} guard={net.guard_us} width={width} />
      </PictureRegion>
      <Table
        title="Arrivals"
        least={420}
        heads={
          <>
            <Head right>after µs</Head>
            <Head right>against it dB</Head>
            <Head right>useful %</Head>
            <Head>so it</Head>
          </>
        }
      >
        {net.echoes.map((e) => (
          <tr key={e.name} className="border-line border-b">
            <th scope="row" className="py-1">
              {e.name}
            </th>
            <Cell right>{figureOf(e.delay_us, 0)}</Cell>
            <Cell right>{figureOf(e.level_db, 1)}</Cell>
            <Cell right>{figureOf(100 * e.useful, 0)}</Cell>
            <Cell>
              <span className="flex items-center gap-2">
                <StateWord state={e.useful > 0.999 ? "ok" : e.useful > 0 ? "marginal" : "fail"} />
                {e.useful > 0.999 ? "helps" : e.useful > 0 ? "disturbs in part" : "disturbs"}
              </span>
            </Cell>
          </tr>
        ))}
      </Table>
      <Timing path={path} first={first} />
    </section>
  );
}

function Timing({ path, first }: { path: PathView; first: MuxLine }) {
  const job = useJob("carriers", "targets");
  const [targets, carriers] = [useRows("targets"), useRows("carriers")];
  const target = (job.targets ?? []).find((t) => t.id === path.target);
  const carrier = (job.carriers ?? []).find((c) => c.id === first.carrier);
  return (
    <p className="m-0 mt-2">
      {path.name} sends{" "}
      <NumberField
        label={`${path.name} sends later than its network`}
        value={target?.delay_us}
        unit="count"
        width={48}
        commit={(t) => targets.set(path.target, { delay_us: t })}
      />{" "}
      µs later than its network; guard interval of {first.name}{" "}
      <NumberField
        label={`Guard interval of ${first.name}`}
        value={carrier?.guard_us}
        unit="count"
        digits={0}
        width={48}
        placeholder="usual"
        commit={(t) => carriers.set(first.carrier, { guard_us: t })}
      />{" "}
      µs
    </p>
  );
}
