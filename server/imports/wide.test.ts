import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';
import { periodColumns, periodOf } from './wide';

it.each([
  ['2024', '2024-01-01'],
  ['2024-03', '2024-03-01'],
  ['2024/3', '2024-03-01'],
  ['03/2024', '2024-03-01'],
  ['2024-02-29', '2024-02-29'],
  ['2023-02-29', null],
  ['Mar 2024', '2024-03-01'],
  ['march-2024', '2024-03-01'],
  ['Mrz. 2024', null],
  ['März 2024', '2024-03-01'],
  ['févr. 2024', '2024-02-01'],
  ['2024 Dec', '2024-12-01'],
  ['Q3 2024', '2024-07-01'],
  ['2024-Q4', '2024-10-01'],
  ['2024-13', null],
  ['12', null],
  ['Quay 2024', null],
])('%s is the period %s', (name, period) => {
  expect(periodOf(name)).toBe(period);
});

it('columns are periods where there are several, each another one, and something besides', () => {
  expect([...periodColumns(['Quay', 'Jan 2024', 'Feb 2024', 'Mar 2024'])!.keys()]).toEqual([1, 2, 3]);
  expect(periodColumns(['Quay', 'Jan 2024', 'Feb 2024'])).toBeNull();
  expect(periodColumns(['2022', '2023', '2024'])).toBeNull();
  expect(periodColumns(['Quay', '2024-01', 'Jan 2024', '2024-02'])).toBeNull();
});

describe('a wide table', () => {
  let t: TestApp;
  beforeAll(async () => {
    t = await testApp();
  });
  afterAll(() => t.close());

  const wide = 'Quay;Kind;Jan 2024;Feb 2024;Mar 2024\n"Quel, old";cod;1,5;2;\nNess;;4;5;6\n';
  const rowsOf = async (id: string) => (await t.json(`/api/datasets/${id}/rows`)).body.rows as unknown[][];
  const answered = async (job: string, answers: Record<string, string>) => {
    await t.send('POST', `/api/imports/${job}/answers`, { answers });
    return t.settled(job);
  };

  it('is offered as one row for each period, with before and after', async () => {
    const asked = await t.importCsv(wide, 'Landings.csv');
    expect(asked.questions).toEqual([
      {
        column: '#wide',
        asks: 'wide',
        examples: ['Jan 2024', 'Feb 2024', 'Mar 2024'],
        options: [
          {
            answer: 'long',
            reads: [
              'Quay · Kind · Period · Value',
              'Quel, old · cod · 2024-01-01 · 1,5',
              'Quel, old · cod · 2024-02-01 · 2',
            ],
          },
          {
            answer: 'wide',
            reads: ['Quay · Kind · Jan 2024 · Feb 2024 · Mar 2024', 'Quel, old · cod · 1,5 · 2 · 6'],
          },
        ],
      },
    ]);
    const long = await answered(asked.id, { '#wide': 'long' });
    // How its numbers are written is asked as ever, where that is in doubt.
    expect(long, long.message).toMatchObject({ state: 'done', rows: 6 });
    expect(await rowsOf(long.dataset!)).toEqual([
      ['Quel, old', 'cod', '2024-01-01', 1.5],
      ['Quel, old', 'cod', '2024-02-01', 2],
      ['Quel, old', 'cod', '2024-03-01', null],
      ['Ness', null, '2024-01-01', 4],
      ['Ness', null, '2024-02-01', 5],
      ['Ness', null, '2024-03-01', 6],
    ]);
    // The file of the month after is read the same way, without a question.
    const preview = await t.refresh(
      long.dataset!,
      'Quay;Kind;Feb 2024;Mar 2024;Apr 2024\nNess;;7,5;8;9\n',
      'mode=merge&by=period',
    );
    expect(preview).toMatchObject({ rows: { now: 6, in: 3, out: 4, after: 5 }, added: [], missing: [] });
  });

  it('stays as it is where that is said', async () => {
    const asked = await t.importCsv(wide, 'Landings.csv');
    const left = await answered(asked.id, { '#wide': 'wide' });
    expect(left).toMatchObject({ state: 'done', rows: 2 });
    expect((await rowsOf(left.dataset!))[0]).toEqual(['Quel, old', 'cod', 1.5, 2, null]);
  });
});
