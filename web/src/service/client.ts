import createClient from "openapi-fetch";
import type { paths } from "../wire/schema";
import { early } from "./early";
import { answered, silent } from "./network";

export type * from "../wire/types";

const NAMED = "evtro.device";

/** The name that this browser gave itself: its changes are its own to take back. */
export function device(): string {
  try {
    const known = localStorage.getItem(NAMED);
    if (known) return known;
    const made = crypto.randomUUID();
    localStorage.setItem(NAMED, made);
    return made;
  } catch {
    return "";
  }
}

/** The first look at a job may have been asked for before this was read. */
async function asking(request: Request): Promise<Response> {
  const job = request.method === "GET" && /\/api\/jobs\/([a-z0-9-]+)$/.exec(request.url);
  const first = job ? early(job[1]!, request.headers.get("Evtro-Include") ?? "") : null;
  return (await first?.catch(() => null)) ?? fetch(request);
}

export const client = createClient<paths>({
  baseUrl: "",
  headers: { "Evtro-Device": device() },
  fetch: asking,
});

client.use({
  onResponse: () => answered(),
  onError: ({ error }) => {
    if ((error as Error).name !== "AbortError") silent();
  },
  onRequest({ request }) {
    // A request that needs answers of a job names them.
    if (!request.headers.has("Evtro-Include")) request.headers.set("Evtro-Include", "");
  },
});
