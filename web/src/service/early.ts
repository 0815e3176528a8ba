/** What a page on site shows is asked for before the program itself is read: on a slow phone that takes longer
 * than the network does. */
type Early = { id: string; show: string; answer: Promise<Response> };

let asked: Early | null = null;
const at = /^\/jobs\/([a-z0-9-]{1,40})\/[a-z]+\/do$/.exec(window.location.pathname);
if (at?.[1]) {
  const answer = fetch(`/api/jobs/${at[1]}`, { headers: { "Evtro-Include": "steps" } });
  answer.catch(() => {});
  asked = { id: at[1], show: "steps", answer };
}

/** Whether the page of the steps is the first that is looked at. */
export const stepsFirst = asked !== null;

/** The answer that was asked for early, once, where it is the one that is wanted. */
export function early(id: string, show: string): Promise<Response> | null {
  const found = asked?.id === id && asked.show === show ? asked.answer : null;
  asked = null;
  return found;
}
