/** Empties a field once its text was taken; what was typed while the answer was on its way stays. */
export const emptied = (sent: string) => (now: string) => (now === sent ? "" : now);
