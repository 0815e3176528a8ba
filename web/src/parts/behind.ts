/** What a detector finds behind a wall. */
export const BEHIND = [
  ["unknown", "not looked yet"],
  ["clear", "nothing"],
  ["stud", "a stud or a beam"],
  ["service", "a cable or a pipe"],
] as const;
