import { plainChart } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let id: string;
beforeAll(async () => {
  t = await testApp();
  const rows = Array.from(
    { length: 400 },
    (_, i) => `${i % 2 ? 'Quel' : 'Harl'},${i},${i % 5 ? i % 5 : ''},2021-0${(i % 9) + 1}-15`,
  );
  id = (await t.importCsv(`Quay,People,Cars,Day\n${rows.join('\n')}\n`, 'Sailings.csv')).dataset!;
});
afterAll(() => t.close());

const fields = '/api/datasets/id/fields';
const at = (path: string) => path.replace('/id/', `/${id}/`);
const add = (name: string, formula: string) => t.send('POST', at(fields), { name, formula });
const column = async (key: string) => {
  const { body } = await t.json(at('/api/datasets/id/rows?limit=1000'));
  const dataset = (await t.json(`/api/datasets/${id}`)).body;
  const place = dataset.fields.findIndex((field: { key: string }) => field.key === key);
  return body.rows.map((row: unknown[]) => row[place]);
};

describe('a computed field', () => {
  it('has a value for each row, in the order of the rows, and a profile', async () => {
    const before = (await t.json(`/api/datasets/${id}`)).body.version;
    const { status, body } = await add('Per car', 'people / cars');
    expect(status).toBe(201);
    expect(body.version).toBe(before + 1);
    expect(body.fields.at(-1)).toMatchObject({
      key: 'per_car',
      name: 'Per car',
      type: 'decimal',
      formula: 'people / cars',
      profile: { count: 320, missing: 80 },
    });
    expect(await column('people')).toEqual(Array.from({ length: 400 }, (_, i) => i));
    expect((await column('per_car')).slice(0, 7)).toEqual([null, 1, 1, 1, 1, null, 6]);
  });

  it('is null where it has no result, and in the other rows what it is', async () => {
    const added = async (name: string, formula: string) => {
      const { status, body } = await add(name, formula);
      expect(status, formula).toBe(201);
      return [body.fields.at(-1).type, (await column(body.fields.at(-1).key)).slice(0, 4)];
    };
    expect(await added('Huge', '(people + 1) * 1E300 * (people * 1E9 + 1)')).toEqual([
      'decimal',
      [1e300, null, null, null],
    ]);
    expect(await added('Power', 'POWER(people * 1E100 + 2, 4)')).toEqual(['decimal', [16, null, null, null]]);
    expect(await added('Far', 'SUBSTRING(quay FROM people * 1E12 + 1)')).toEqual([
      'text',
      ['Harl', '', '', ''],
    ]);
    const backslash = "quay LIKE CASE WHEN people = 1 THEN 'a\\' ELSE 'H%' END";
    expect(await added('Pattern', backslash)).toEqual(['boolean', [true, null, true, false]]);
    expect(await added('Late', "DATE_TRUNC('month', day) + INTERVAL '99999999' YEAR")).toEqual([
      'date',
      [null, null, null, null],
    ]);
  });

  it('takes the beginning of a text, and rounds what is to be a whole number', async () => {
    const { body } = await add('Short', 'SUBSTRING(quay FOR 3)');
    expect(body.fields.at(-1).type).toBe('text');
    expect((await column('short')).slice(0, 2)).toEqual(['Har', 'Que']);
    await add('Rounded', 'CAST(people / 4 + 0.2 AS INTEGER)');
    expect((await column('rounded')).slice(0, 8)).toEqual([0, 0, 1, 1, 1, 1, 2, 2]);
  });

  it.each([
    ['EXTRACT(YEAR FROM day)', 'integer'],
    ['EXTRACT(SECOND FROM CAST(day AS TIMESTAMP))', 'decimal'],
    ['MOD(people, 7)', 'integer'],
    ['people * 2 + cars - 1', 'integer'],
    ['-ABS(people)', 'integer'],
    ['people / 2', 'decimal'],
    ['people * 0.5', 'decimal'],
    ['FLOOR(people / 3)', 'integer'],
    ['ROUND(people / 3, 1)', 'decimal'],
    ['CASE WHEN people > 3 THEN people ELSE 0 END', 'integer'],
    ['COALESCE(cars, people / 2)', 'decimal'],
    ['COALESCE(cars, 0)', 'integer'],
    ['CHAR_LENGTH(quay)', 'integer'],
    ["day - DATE '2021-01-01'", 'integer'],
    ['CAST(people / 3 AS BIGINT)', 'integer'],
  ])('%s gives a field of the type %s', async (formula, type) => {
    const { body } = await add(`Of ${formula}`, formula);
    expect(body.fields.at(-1).type).toBe(type);
    await t.json(at(`/api/datasets/id/fields/${body.fields.at(-1).key}`), { method: 'DELETE' });
  });

  it('can be of every type, and be a key of cubes', async () => {
    await add('Near', "quay = 'Quel' AND people < 10");
    await add('Label', "UPPER(quay) || ' ' || CAST(EXTRACT(YEAR FROM day) AS VARCHAR)");
    const { body } = await add('Month', "DATE_TRUNC('month', day)");
    expect(
      body.fields.slice(-3).map((field: { key: string; type: string }) => [field.key, field.type]),
    ).toEqual([
      ['near', 'boolean'],
      ['label', 'text'],
      ['month', 'date'],
    ]);
    expect((await column('label')).slice(0, 2)).toEqual(['HARL 2021', 'QUEL 2021']);
    const cube = await t.request(
      at(`/api/datasets/id/cube?version=${body.version}&key=label&aggregate=sum.per_car`),
    );
    expect(cube.status).toBe(200);
  });

  it('follows those that it is computed from', async () => {
    await add('Double', 'people * 2');
    await add('Triple', 'double + people');
    expect((await column('triple')).slice(0, 3)).toEqual([0, 3, 6]);
    const { status, body } = await t.send('PATCH', at(`${fields}/double`), { formula: 'people * 20' });
    expect(status).toBe(200);
    expect(body.fields.find((field: { key: string }) => field.key === 'double').formula).toBe('people * 20');
    expect((await column('triple')).slice(0, 3)).toEqual([0, 21, 42]);
  });

  it('cannot go round in a circle, which is named', async () => {
    const { status, body } = await t.send('PATCH', at(`${fields}/double`), { formula: 'triple - people' });
    expect(status).toBe(422);
    expect(body.detail).toContain('This goes round in a circle: Double → Triple → Double.');
    const self = await t.send('PATCH', at(`${fields}/double`), { formula: 'double + 1' });
    expect(self.body.detail).toContain('Double cannot be computed from itself.');
    expect((await column('double')).slice(0, 2)).toEqual([0, 20]);
  });

  it('is not deleted under another one, and says what names it', async () => {
    await t.send('POST', '/api/boards', {
      document: {
        version: 1,
        title: 'Uses it',
        levers: [],
        charts: [
          plainChart(id, {
            by: { field: 'quay' },
            measure: { aggregate: 'formula', text: 'SUM(double) / COUNT(*)' },
            order: { by: 'value', direction: 'descending' },
          }),
        ],
      },
    });
    expect((await t.json(at(`${fields}/double/uses`))).body).toEqual({
      fields: ['Triple'],
      boards: [{ id: 'uses-it', title: 'Uses it' }],
    });
    expect((await t.json(at(`${fields}/label/uses`))).body).toEqual({ fields: [], boards: [] });
    const refused = await t.send('DELETE', at(`${fields}/double`));
    expect(refused.status).toBe(409);
    expect(refused.body.detail).toContain('Triple is computed from Double');
    expect((await t.send('DELETE', at(`${fields}/triple`))).status).toBe(200);
    expect((await t.send('DELETE', at(`${fields}/double`))).status).toBe(200);
    expect((await t.send('DELETE', at(`${fields}/people`))).status).toBe(409);
  });

  it('keeps up with a change of type, or refuses it', async () => {
    const refused = await t.send('POST', at(`${fields}/people/retype`), { type: 'text' });
    expect(refused.status).toBe(409);
    expect(refused.body.detail).toContain('is calculated from "People" and would stop working');
    const own = await t.send('POST', at(`${fields}/per_car/retype`), { type: 'text' });
    expect(own.body.detail).toContain('comes from its formula');
    const { status } = await t.send('POST', at(`${fields}/people/retype`), { type: 'decimal' });
    expect(status).toBe(200);
    expect((await column('per_car')).slice(1, 3)).toEqual([1, 1]);
  });

  it('is refused with the place of what is wrong', async () => {
    const wrong: [string, string][] = [
      ['peple * 2', 'There is no field "peple" here. Is people meant?'],
      [
        'SUM(people)',
        'SUM combines several rows, but this formula sees one row at a time. Use it in a measure.',
      ],
      ['RANK() OVER (ORDER BY people)', 'OVER (..) looks at other rows'],
      ['people * :count', 'Levers cannot be used in a computed field'],
      ['day < CURRENT_DATE', 'CURRENT_DATE is not available here'],
      ['people; DROP TABLE sorvik.boards', 'Unexpected ";".'],
      ['NULL', 'This is always empty'],
      ['quay + 1', 'has to be a number'],
      [`${'('.repeat(4000)}1${')'.repeat(4000)}`, 'nested'],
    ];
    for (const [formula, says] of wrong) {
      const { status, body } = await add(`Wrong ${formula.slice(0, 12)}`, formula);
      expect([formula.slice(0, 30), status]).toEqual([formula.slice(0, 30), 422]);
      expect(body.detail).toContain(says);
    }
    const { body } = await add('Wrong', 'cars + peple');
    expect(body.errors[0]).toMatchObject({ pointer: '/formula', from: 7, to: 12 });
    expect((await add('Quay', 'people')).body.detail).toContain('there is a field "Quay" already');
    expect((await t.send('POST', at(fields), { name: 'x', formula: 'p'.repeat(10_001) })).status).toBe(422);
  });

  it('takes hostile texts and names as values and names', async () => {
    const odd = (await t.importCsv('"a""b; DROP TABLE x",n\n1,2\n', 'Odd.csv')).dataset!;
    const { status, body } = await t.send('POST', `/api/datasets/${odd}/fields`, {
      name: '"); DROP TABLE sorvik.boards; --',
      formula: `CASE WHEN n > 0 THEN '''); DROP TABLE sorvik.boards; --' END`,
    });
    expect(status).toBe(201);
    const { rows } = (await t.json(`/api/datasets/${odd}/rows`)).body;
    expect(rows).toEqual([[1, 2, "'); DROP TABLE sorvik.boards; --"]]);
    expect(body.fields).toHaveLength(3);
    expect((await t.json('/api/boards')).status).toBe(200);
  });
});
