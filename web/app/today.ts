/** The day that is today, `YYYY-MM-DD`: in UTC, as the database reckons. */
export const today = (): string => new Date().toISOString().slice(0, 10);
