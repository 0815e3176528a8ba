import table from "./table.json";

/** The core's states with their words, the most severe first; whatever sorts by state goes by it. */
const STATES = table.states as [string, string][];
const BY_SEVERITY = STATES.map(([state]) => state);

export const STATE_WORDS = Object.fromEntries(STATES);

/** The place of a state in that order: 0 is the most severe. */
export function severity(state: string): number {
  return BY_SEVERITY.indexOf(state);
}
