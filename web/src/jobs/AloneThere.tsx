import { useQuery } from "@tanstack/react-query";
import { Link } from "wouter";
import { StateWord } from "../instruments/StateMark";
import { type AloneView, client } from "../service/client";
import { told } from "../service/refusals";

const LOOK_MS = 20_000;

/** Whoever works alone at one of the jobs, and by when a word is due. */
export function AloneThere() {
  const { data } = useQuery({
    queryKey: ["alone"],
    queryFn: () => told(client.GET("/api/check-ins")) as Promise<AloneView[]>,
    refetchInterval: LOOK_MS,
    retry: false,
  });
  if (!data?.length) return null;
  return (
    <ul
      aria-label="Working alone"
      className="m-0 mb-4 list-none border-2 border-marginal px-4 py-2 text-dense"
    >
      {data.map((a) => {
        const left = Math.round(a.left_s / 60);
        return (
          <li key={a.job} className="flex flex-wrap items-baseline gap-x-4">
            <StateWord state={a.state} />
            <span>
              <b>{a.who} is alone</b> at <Link to={`/jobs/${a.job}/mast/do`}>{a.name}</Link>,{" "}
              {left < 0 ? `no word for ${-left} min beyond the time` : `word due in ${left} min`}.
            </span>
            {a.state === "fail" && (
              <b className="text-fail">
                {a.do} {a.call}
              </b>
            )}
          </li>
        );
      })}
    </ul>
  );
}
