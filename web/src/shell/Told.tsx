import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { RefusalWords } from "../parts/RefusalWords";
import { client } from "../service/client";
import { network } from "../service/network";
import { readAgain } from "../service/queries";
import { told, unread } from "../service/refusals";

/** What the program has to say on every page: what it found at its start, and what could not be read. */
export function Told() {
  return (
    <>
      <FromBefore />
      <Unread />
      <Notices />
    </>
  );
}

/** Without a network: since when what is shown stands. */
function FromBefore() {
  const from = network((s) => s.from);
  if (from === null) return null;
  const at = new Date(from).toTimeString().slice(0, 5);
  return (
    <p
      role="status"
      className="m-0 border-marginal border-b-2 bg-paper px-6 py-1.5 text-dense max-md:px-4"
    >
      <b>No network.</b> What stands here was read at <span className="num">{at}</span>.
    </p>
  );
}

/** An error is told as one: a page never shows it as emptiness. */
function Unread() {
  const from = network((s) => s.from);
  // Without a network that is told once, and not as an error of each piece.
  const failed = [...unread((s) => s.rows).values()].filter(
    (r) => r.status !== 401 && !(from !== null && r.status === 0),
  );
  const first = failed[0];
  if (!first) return null;
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-x-4 border-fail border-b-2 px-6 py-2"
    >
      <span>
        <b>Not read:</b> <RefusalWords it={first} /> What stands here may be old or missing.
      </span>
      <button type="button" className="plain-button ml-auto" onClick={() => readAgain()}>
        Read again
      </button>
    </div>
  );
}

const SEEN = "evtro.seen";

function Notices() {
  const health = useQuery({
    queryKey: ["health"],
    queryFn: () => told(client.GET("/api/health")),
    refetchInterval: 600_000,
  });
  const [seen, see] = useState(() => sessionStorage.getItem(SEEN) ?? "");
  const notices = health.data?.notices ?? [];
  const all = notices.join(" ");
  if (!all || all === seen) return null;
  return (
    <div
      role="status"
      className="flex flex-wrap items-center gap-x-4 border-marginal border-b-2 bg-paper px-6 py-2"
    >
      <span>{all}</span>
      <button
        type="button"
        className="plain-button ml-auto"
        onClick={() => {
          sessionStorage.setItem(SEEN, all);
          see(all);
        }}
      >
        Read
      </button>
    </div>
  );
}
