const text = (options: Intl.DateTimeFormatOptions) => (iso: string) =>
  new Date(iso).toLocaleString('en-GB', options);

const clock = { hour: '2-digit', minute: '2-digit' } as const;
const day = { day: 'numeric', month: 'short' } as const;

/** A moment of these days, as authors read it: "Fri 27 Nov, 14:05". */
export const recentText = text({ weekday: 'short', ...day, ...clock });

/** A moment of any year: "27 Nov 2026, 14:05". */
export const momentText = text({ ...day, year: 'numeric', ...clock });

/** The day of a moment: "27 Nov 2026". */
export const dayText = text({ ...day, year: 'numeric' });
