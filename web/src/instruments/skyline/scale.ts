/** Pixels a degree, both ways: one degree up is drawn as one degree along. */
export const PX = 5;

export type Scale = {
  x: (az: number) => number;
  y: (el: number) => number;
  width: number;
  sky: number;
};

export const norm = (deg: number) => ((deg % 360) + 360) % 360;
