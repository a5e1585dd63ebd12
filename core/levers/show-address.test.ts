import { expect, it } from 'vitest';
import { showAddress, showQuery } from './show-address';

const link = 'k'.repeat(43);
const read = (query: string) => {
  const { levers, ...rest } = showAddress(new URLSearchParams(query));
  return { ...rest, levers: levers.toString() };
};
const plain = { link: null, embedded: false, theme: null, lang: null };

it('tells where levers stand from what else an address says', () => {
  expect(read('count=5&routes=Quel')).toEqual({ ...plain, levers: 'count=5&routes=Quel' });
  expect(read(`count=5&link=${link}`)).toEqual({ ...plain, link, levers: 'count=5' });
  expect(read(`embed&theme=dark&lang=de&link=${link}&count=5&count=6`)).toEqual({
    link,
    embedded: true,
    theme: 'dark',
    lang: 'de',
    levers: 'count=5&count=6',
  });
});

it('leaves levers that are called as its words alone', () => {
  expect(read('theme=old&lang=en&embed=on&link=road')).toEqual({
    ...plain,
    levers: 'theme=old&lang=en&embed=on&link=road',
  });
  expect(read('embed&lever.theme=old&theme=')).toEqual({ ...plain, embedded: true, levers: 'theme=old' });
});

it('keeps the link in an address when levers move', () => {
  const at = new URLSearchParams('count=5');
  expect(showQuery(at, { link: null }).toString()).toBe('count=5');
  expect(read(showQuery(at, { link }).toString())).toEqual({ ...plain, link, levers: 'count=5' });
});
