import { loaded } from "../parts/loaded";

/** What few steps need, with its plot and tabs: it is read once the first step stands. */
export const PeakPad = loaded(() => import("./PeakPad"));
export const SpotPad = loaded(() => import("./SpotPad"));
