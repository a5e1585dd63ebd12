/** The day that is today, `YYYY-MM-DD`: in UTC, as the database reckons. */
export const today = (now = new Date()): string => now.toISOString().slice(0, 10);
