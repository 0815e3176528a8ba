import { navigate } from "wouter/use-browser-location";

type How = { replace?: boolean };

/** Opens a place of the program; where it is open already Back still leads to the one before it. */
export function go(to: string, how: How = {}) {
  const here = window.location.pathname + window.location.search;
  navigate(to, { ...how, replace: how.replace || to === here });
}
