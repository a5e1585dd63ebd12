/** Ollen Sound Ferries: an invented operator among invented islands. */

export interface Route {
  name: string;
  /** Sailings a day at the usual scale. */
  sailings: number;
  /** Passengers on a full summer sailing. */
  demand: number;
  /** How much busier summer is than winter. */
  season: number;
  vessels: string[];
  /** The first day it sails. */
  from?: string;
  /** Calls at the pier that was rebuilt. */
  newPier?: boolean;
  /** Routes with the same seed carry the very same numbers: ties. */
  seed: number;
}

const route = (
  name: string,
  sailings: number,
  demand: number,
  season: number,
  vessels: string[],
  seed: number,
  more: Partial<Route> = {},
): Route => ({
  name,
  sailings,
  demand,
  season,
  vessels,
  seed,
  ...more,
});

export const routes: Route[] = [
  route('Quel – Ostrin', 3, 262, 1.5, ['Grey Tern', 'Ollen Maid'], 11),
  route('Harl – Vemmen', 3, 214, 1.7, ['Morning Ebb', 'Ollen Maid'], 12),
  route('Ostrin – Tarsk', 2, 231, 2.4, ['Saltwind'], 13),
  route('Quel – Ilvoe', 2, 176, 1.9, ['Grey Tern', 'Lantern'], 14),
  route('Harl – Skarrow', 2, 149, 1.8, ['Far Skerry'], 15, { newPier: true }),
  route('Vemmen – Brask', 2, 118, 1.3, ['Morning Ebb'], 16),
  route('Ostrin – Nemmick', 1.5, 132, 2.9, ['Saltwind', 'Petrel'], 17),
  route('Skarrow – Aldsey', 1.5, 104, 2.1, ['Far Skerry', 'Petrel'], 18, { newPier: true }),
  route('Tarsk – Corvane', 1, 121, 1.6, ['Lantern'], 19),
  route('Ilvoe – Fennow', 1, 88, 2.2, ['Petrel'], 20),
  route('Umbry – Pellin', 1, 96, 2.0, ['Old Harbour'], 21, { from: '2021-04-01' }),
  route('Brask – Umbry', 1, 61, 1.4, ['Kelp Runner'], 22),
  route('Fennow – Aldsey', 1, 47, 1.7, ['Kelp Runner'], 23),
  route('Corvane – Nemmick', 1, 47, 1.7, ['Old Harbour'], 23),
];

export const capacities: Record<string, number> = {
  'Grey Tern': 420,
  'Ollen Maid': 380,
  'Morning Ebb': 340,
  Saltwind: 360,
  Lantern: 240,
  'Far Skerry': 260,
  Petrel: 200,
  'Old Harbour': 180,
  'Kelp Runner': 120,
};

export interface Fare {
  name: string;
  share: number;
  price: number;
  carPrice: number;
}
export const fares: Fare[] = [
  { name: 'resident', share: 0.36, price: 6.4, carPrice: 14.5 },
  { name: 'visitor', share: 0.49, price: 13.8, carPrice: 31 },
  { name: 'commuter pass', share: 0.15, price: 3.2, carPrice: 9 },
];

export const firstDay = '2019-01-01';
export const lastDay = '2024-12-31';

/** Dates that left their mark. */
export const events = {
  timetable: '2021-05-01',
  stormFrom: '2022-01-10',
  stormTo: '2022-02-27',
  pier: '2022-06-15',
} as const;

export const hours = [6, 7, 8, 9, 11, 12, 14, 16, 17, 18, 20];
