import { loaded } from "../parts/loaded";

/** Only few steps need these, and they bring a plot and tabs: they load after the first step is shown. */
export const PeakPad = loaded(() => import("./PeakPad"));
export const SpotPad = loaded(() => import("./SpotPad"));
