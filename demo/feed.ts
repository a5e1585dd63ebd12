import { localServer } from './local-server';
import { randomFrom } from './random';
import { capacities, fares, hours, routes } from './scenario';

// A stand-in for what an operator's own system would give: the sailings of today, as far as they have left.

const two = (n: number) => String(n).padStart(2, '0');

/** The day of a moment, by UTC, as the board of it has it. */
const dayOf = (now: Date) => `${now.getUTCFullYear()}-${two(now.getUTCMonth() + 1)}-${two(now.getUTCDate())}`;

/** Seeds a day, so that each of its sailings stays as it was however often it is asked for. */
const seedOf = (day: string) =>
  [...day].reduce((seed, letter) => (seed * 31 + letter.charCodeAt(0)) % 2_147_483_647, 7);

/**
 * The sailings that have left by a moment of its day, as CSV: one line for each. Routes leave some minutes apart, so that
 * there is a new one every few minutes of the day; before the first of the morning there are those of the evening before.
 */
export function todaysSailings(now: Date): string {
  const early =
    now.getUTCHours() < hours[0]! || (now.getUTCHours() === hours[0] && now.getUTCMinutes() === 0);
  const from = early ? new Date(now.getTime() - 12 * 3_600_000) : now;
  const day = dayOf(from);
  const random = randomFrom(seedOf(day));
  const minuteOfDay = early ? 24 * 60 : now.getUTCHours() * 60 + now.getUTCMinutes();
  const sailings: { at: number; line: string }[] = [];
  for (const hour of hours)
    routes.forEach((route, r) => {
      const at = hour * 60 + Math.floor((r * 60) / routes.length);
      const vessel = route.vessels[Math.floor(random() * route.vessels.length)]!;
      const capacity = capacities[vessel]!;
      const passengers = Math.floor(capacity * (0.15 + 0.8 * random()));
      const fare = fares[Math.floor(random() * fares.length)]!;
      const delay = Math.floor(random() ** 3 * 25);
      const departure = `${two(hour)}:${two(at % 60)}`;
      const revenue = (passengers * (4 + 9 * random())).toFixed(2);
      // All that is by chance has been drawn: what has not left yet changes nothing for those that have.
      if (at + delay > minuteOfDay) return;
      sailings.push({
        at,
        line: [
          day,
          hour,
          departure,
          route.name,
          vessel,
          fare.name,
          passengers,
          capacity,
          revenue,
          delay,
        ].join(','),
      });
    });
  const head =
    'Date,Departure hour,Departure,Route,Vessel,Most common fare,Passengers,Capacity,Revenue,Delay';
  return `${[head, ...sailings.sort((a, b) => a.at - b.at).map(({ line }) => line)].join('\n')}\n`;
}

export interface Feed {
  address: string;
  close(): Promise<void>;
}

/** Serves today's sailings on a free port of this machine. */
export async function startFeed(now: () => Date = () => new Date()): Promise<Feed> {
  const { origin, close } = await localServer((_request, response) => {
    response.writeHead(200, { 'content-type': 'text/csv; charset=utf-8' }).end(todaysSailings(now()));
  });
  return { address: `${origin}/sailings-of-today.csv`, close };
}
