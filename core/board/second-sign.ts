import { isValueColour, type Look, seriesColour } from './look';

/** What can tell looks apart besides their colours, simplest first. */
export const secondSigns: readonly Look[] = [
  { outline: true },
  { hatch: true },
  { outline: true, hatch: true },
  { weight: 'heavy' },
  { hatch: true, weight: 'heavy' },
  { outline: true, weight: 'heavy' },
  { outline: true, hatch: true, weight: 'heavy' },
];

const signOf = ({ outline, hatch, weight, marker }: Look): string =>
  [outline ?? false, hatch ?? false, weight ?? '', marker ?? ''].join();

/** A sign that none of these looks has; the first one where all are taken. */
export const freeSign = (looks: readonly Look[]): Look =>
  secondSigns.find((sign) => !looks.some((look) => signOf(look) === signOf(sign))) ?? secondSigns[0]!;

const isFixed = ({ colour }: Look) =>
  colour !== undefined && colour !== seriesColour && !isValueColour(colour);

/** Whether two looks have a colour each and nothing else that tells them apart: some people see no difference. */
export const differByColourAlone = (a: Look, b: Look): boolean =>
  isFixed(a) && isFixed(b) && a.colour !== b.colour && signOf(a) === signOf(b);
