import { readFileSync } from 'node:fs';
import { lookColours } from '@sorvik/core/board/look';
import { mutedTones } from '@sorvik/core/board/otherwise';
import { weakSpots } from '@sorvik/core/pipeline/colour-check';
import { grounds as checked } from '@sorvik/core/pipeline/grounds';
import { contrast } from '@sorvik/view/contrast';
import { describe, expect, it } from 'vitest';

const read = (name: string) => readFileSync(new URL(name, import.meta.url), 'utf8');
const variables = read('../../view/theme/_variables.scss');
const tones = read('../../view/theme/_tones.scss');

const named = (name: string) => new RegExp(`\\$${name}: (#[0-9a-f]{6})`).exec(variables)![1]!;
const [light = '', dark = ''] = tones.split('[data-bs-theme="dark"]');
const tone = (block: string, name: string) => new RegExp(`--sv-${name}: (#[0-9a-f]{6})`).exec(block)![1]!;
const looks = Object.fromEntries(
  [...variables.matchAll(/"([a-z]+)": \(\s*(#[0-9a-f]{6}),\s*(#[0-9a-f]{6}),?\s*\)/g)].map(
    ([, name, onLight, onDark]) => [name, [onLight, onDark]],
  ),
);

const grounds = [
  { name: 'light', index: 0, block: light, ground: named('paper'), sheet: named('sheet') },
  { name: 'dark', index: 1, block: dark, ground: named('night'), sheet: named('night-sheet') },
];

it('the tones that lit colours are checked against are those of the theme', () => {
  expect(checked.map(({ muted }) => muted.quiet)).toEqual([
    tone(light, 'mark-muted'),
    tone(dark, 'mark-muted'),
  ]);
  for (const name of ['faint', 'firm'] as const) {
    const blocks = [...tones.matchAll(new RegExp(`\\[data-tone="${name}"\\] \\{[^}]*\\}`, 'g'))];
    expect(blocks.map(([block]) => tone(block, 'mark-muted'))).toEqual(
      checked.map(({ muted }) => muted[name]),
    );
  }
});

it('every colour that a look may name has its tones', () => {
  expect(Object.keys(looks).sort()).toEqual([...lookColours].sort());
});

describe.each(grounds)('on $name ground', ({ index, block, ground, sheet }) => {
  it.each([...lookColours])('%s stands off the ground and off what is muted', (colour) => {
    const lit = looks[colour]![index]!;
    expect(contrast(lit, ground)).toBeGreaterThanOrEqual(3);
    expect(contrast(lit, sheet)).toBeGreaterThanOrEqual(3);
    // Off the normal tone and off the strong one, and off marks that are plain.
    for (const under of [checked[index]!.muted.quiet, checked[index]!.muted.firm])
      expect(contrast(lit, under)).toBeGreaterThanOrEqual(3);
    const plain = tone(block, 'mark-plain');
    expect(contrast(lit, plain)).toBeGreaterThanOrEqual(2);
  });
  it.each([...lookColours])(
    '%s stands off what is muted to the colour-blind too, in every tone',
    (colour) => {
      const weak = mutedTones.flatMap((tone) => weakSpots(looks[colour]![index]!, tone));
      expect(weak.filter((spot) => spot.ground === checked[index]!.name)).toEqual([]);
    },
  );
  it('texts can be read, muted ones too', () => {
    for (const name of ['quiet', 'text-muted'])
      for (const under of [ground, sheet])
        expect(contrast(tone(block, name), under)).toBeGreaterThanOrEqual(4.5);
  });
  it('muted marks are quieter than plain ones, but there', () => {
    const plain = contrast(tone(block, 'mark-plain'), ground);
    const muted = contrast(tone(block, 'mark-muted'), ground);
    expect(plain).toBeGreaterThanOrEqual(3);
    for (const under of [ground, sheet]) {
      expect(contrast(checked[index]!.muted.quiet, under)).toBeGreaterThanOrEqual(1.6);
      expect(contrast(checked[index]!.muted.firm, under)).toBeGreaterThanOrEqual(2);
    }
    expect(muted).toBeLessThan(plain / 1.5);
  });
});
