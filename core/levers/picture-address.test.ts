import { expect, it } from 'vitest';
import { pictureAddress } from './picture-address';

it('has the levers of a show in it, and those that are called as its own words by another name', () => {
  const at = new URLSearchParams('count=3&width=low&routes=Quel+%E2%80%93+Ostrin&routes=Harl');
  const where = { board: 'the sound', chart: 'by-route', format: 'png' };
  expect(pictureAddress(where, at)).toBe(
    '/pictures/the%20sound/by-route.png?count=3&lever.width=low&routes=Quel+%E2%80%93+Ostrin&routes=Harl',
  );
  expect(pictureAddress(where, new URLSearchParams())).toBe('/pictures/the%20sound/by-route.png');
});
