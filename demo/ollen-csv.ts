import { randomFrom } from './random';
import {
  capacities,
  events,
  type Fare,
  fares,
  firstDay,
  hours,
  lastDay,
  type Route,
  routes,
} from './scenario';

const dayMs = 86_400_000;
const head =
  'Date,Departure hour,Route,Vessel,Fare type,Passengers,Cars,Capacity,Revenue,Fuel,Delay,Route and fare,Departure minute\n';
const usualRows = 150_000;

/** Busiest in the first days of August, emptiest in February. */
const seasonOf = (day: number) => 0.5 + 0.5 * Math.cos(((day % 365.25) - 213) * ((2 * Math.PI) / 365.25));

/** How many sail compared with 2019: the quiet year, the slow return, the growth after the pier. */
const yearFactors: Record<string, number> = {
  2019: 1,
  2020: 0.63,
  2021: 0.82,
  2022: 0.95,
  2023: 1.08,
  2024: 1.13,
};

function sailingsOn(route: Route, date: string, scale: number, chance: number, storm: boolean): number {
  if (route.from && date < route.from) return 0;
  const timetable = date >= events.timetable && route.sailings >= 2 ? 1.15 : 1;
  const wanted = route.sailings * timetable * scale * (storm ? 0.45 : 1);
  return Math.floor(wanted) + (chance < wanted % 1 ? 1 : 0);
}

/** One line per sailing and fare type. */
/** Most leave at the quarter, some between: always the same for the same sailing, by a scramble of what is known of it. */
function minuteOf(day: number, hour: number, seed: number): number {
  const scrambled = (day * 7919 + hour * 104_729 + seed * 1_299_709) % 9973;
  return scrambled % 5 < 3 ? (scrambled % 4) * 15 : Math.floor(scrambled / 5) % 60;
}

function sailingLines(route: Route, date: string, day: number, storm: boolean, random: () => number): string {
  const hour = hours[Math.floor(random() * hours.length)]!;
  const vessel = route.vessels[Math.floor(random() * route.vessels.length)]!;
  const capacity = capacities[vessel]!;
  const weekday = new Date(`${date}T00:00:00Z`).getUTCDay();
  const rush = hour === 7 || hour === 17 ? 1.18 : hour < 7 || hour > 18 ? 0.7 : 1;
  const weekend = weekday === 0 || weekday === 6 ? 1.15 : 1;
  const pier = route.newPier && date >= events.pier ? 1.42 : 1;
  const season = (1 + (route.season - 1) * seasonOf(day)) / route.season;
  const crowd =
    route.demand * season * rush * weekend * pier * yearFactors[date.slice(0, 4)]! * (0.8 + 0.4 * random());
  const total = Math.min(capacity, Math.max(2, Math.round(storm ? crowd * 0.6 : crowd)));
  const fuel = (capacity / 2.6) * (0.9 + 0.2 * random()) * (storm ? 1.25 : 1);
  const minute = minuteOf(day, hour, route.seed);
  const late = random();
  const delay = Math.round(storm ? late * 75 : late < 0.62 ? 0 : (late - 0.62) * 55);
  const unmeasured = random() < 0.012;
  return fares
    .map((fare: Fare) => {
      const passengers = Math.round(total * fare.share * (0.85 + 0.3 * random()));
      const cars = Math.round(
        passengers * (fare.name === 'commuter pass' ? 0.08 : 0.21) * (0.6 + 0.8 * random()),
      );
      const revenue = (passengers * fare.price + cars * fare.carPrice).toFixed(2);
      const places = Math.round(capacity * fare.share);
      const burnt = unmeasured ? '' : (fuel * fare.share).toFixed(1);
      const minutes = unmeasured ? '' : String(delay);
      return `${date},${hour},${route.name},${vessel},${fare.name},${passengers},${cars},${places},${revenue},${burnt},${minutes},${route.name} · ${fare.name},${minute}\n`;
    })
    .join('');
}

/**
 * The demo data as pieces of CSV, about `rows` lines, always the same for the same number. A storm winter thins the
 * timetable, some days are missing altogether, one route opens late, two routes carry exactly the same.
 */
export function* ollenCsv(rows: number = usualRows): Generator<string> {
  const scale = (rows / usualRows) * 0.971;
  const perRoute = routes.map((route) => randomFrom(route.seed * 7919));
  const calendar = randomFrom(2019);
  let piece = head;
  let day = 0;
  for (let at = Date.parse(firstDay); at <= Date.parse(lastDay); at += dayMs, day++) {
    const date = new Date(at).toISOString().slice(0, 10);
    const storm = date >= events.stormFrom && date <= events.stormTo;
    const lost = calendar() < (storm ? 0.18 : 0.003);
    if (lost) continue;
    routes.forEach((route, r) => {
      const random = perRoute[r]!;
      const sailings = sailingsOn(route, date, scale, random(), storm);
      for (let i = 0; i < sailings; i++) piece += sailingLines(route, date, day, storm, random);
    });
    if (piece.length > 200_000) {
      yield piece;
      piece = '';
    }
  }
  if (piece) yield piece;
}
