/** What is kept of a step: that it is done, that its danger is confirmed and by whom, a reading, a note. */
export type Put = {
  done?: boolean;
  danger_read?: boolean;
  by?: string;
  value?: string;
  note?: string;
};
