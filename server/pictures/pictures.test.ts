import { plainChart, plainCue, plainPick } from '@sorvik/core/testing/documents';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { type TestApp, testApp } from '../testing/test-app';

let t: TestApp;
let dataset: string;

const quays = plainPick('', 'quay', 'quays', 'Quays');
beforeAll(async () => {
  t = await testApp();
  const rows = ['Quel,40', 'Harl,20', 'Ostrin,30', '"Tarsk ""old"" 🌊 & <b>",5'];
  dataset = (await t.importCsv(`quay,tons\n${rows.join('\n')}\n`, 'Landings.csv')).dataset!;
  const chart = (more: object) =>
    plainChart(dataset, {
      by: { field: 'quay' },
      measure: { aggregate: 'sum', field: 'tons' },
      order: { by: 'value', direction: 'descending' },
      cues: [plainCue('light', 'quays', { colour: 'ember' })],
      ...more,
    });
  const made = await t.send('POST', '/api/boards', {
    document: {
      version: 1,
      title: 'Landings',
      levers: [
        { ...quays, dataset },
        { ...quays, dataset, id: 'width', name: 'Width' },
        { ...quays, dataset, id: 'secret', name: 'Secret', hidden: true },
      ],
      notes: [{ id: 'note', text: '## Only\n\n* {quays}\n* **all** of them' }],
      charts: [
        chart({ id: 'bars', title: 'Tons by quay' }),
        chart({ id: 'ring', title: 'Ring', form: 'ring', cues: [plainCue('filter', 'quays')] }),
        chart({
          id: 'distinct',
          measure: { aggregate: 'formula', text: 'COUNT(DISTINCT tons)' },
          cues: [plainCue('filter', 'quays')],
        }),
      ],
    },
  });
  expect(made.body.detail).toBeUndefined();
});
afterAll(() => t.close());

/** A whole board, as a file of a format. */
const whole = (file: string) => t.request(`/pictures/${file}`);
const picture = (file: string, headers: Record<string, string> = {}) =>
  t.request(`/pictures/landings/${file}`, { headers });
const svg = async (file: string) => {
  const response = await picture(file);
  expect(response.status).toBe(200);
  return response.text();
};

it('a chart is a picture as its address has it: with its words, and lit where its levers stand', async () => {
  const text = await svg('bars.svg?quays=Harl');
  expect(text).toMatch(/^<svg /);
  for (const said of ['Tons by quay', 'Quel', '40', '1 of 4 quays lit: Harl (20).'])
    expect(text).toContain(`>${said}</text>`);
  expect(text).toContain('>Tarsk "old" 🌊 &amp; &lt;b&gt;</text>');
  expect(text).toContain('data-key="Tarsk &quot;old&quot; 🌊 &amp; &lt;b&gt;"');
  expect(text).not.toContain('var(');
  // One mark has the colour of its look, three the muted tone.
  const bars = [...text.matchAll(/<rect [^>]*>/g)].map(([rect]) => /fill="([^"]*)"/.exec(rect)?.[1]);
  const counts = new Map<string | undefined, number>();
  for (const fill of bars) counts.set(fill, (counts.get(fill) ?? 0) + 1);
  expect([...counts.values()]).toEqual(expect.arrayContaining([2, 4]));
  const unlit = await svg('bars.svg');
  expect(unlit).toContain('4 quays, none lit: nothing is picked.');
});

it('is drawn in either theme, in any size, language and sharpness', async () => {
  const [light, dark] = [await svg('bars.svg?theme=light'), await svg('bars.svg?theme=dark')];
  expect(light).not.toBe(dark);
  const german = await svg('bars.svg?lang=de&quays=Harl');
  expect(german).toMatch(/1 von 4/);
  expect(await svg('bars.svg?width=900')).toContain('viewBox="0 0 932 ');
  expect(await svg('bars.svg?caption=off&quays=Harl')).not.toContain('1 of 4');
  const sizeOf = async (file: string) => {
    const bytes = Buffer.from(await (await picture(file)).arrayBuffer());
    expect(bytes.subarray(1, 4).toString()).toBe('PNG');
    return [bytes.readUInt32BE(16), bytes.readUInt32BE(20)];
  };
  const [width, height] = await sizeOf('bars.png?scale=1');
  expect(width).toBe(672);
  expect(await sizeOf('bars.png?scale=3')).toEqual([3 * width!, 3 * height!]);
});

it('says its values as a file too', async () => {
  const csv = await picture('bars.csv?quays=Harl');
  expect(csv.headers.get('content-type')).toContain('text/csv');
  expect(await csv.text()).toBe(
    'quay,total tons,state\r\nQuel,40,muted\r\nOstrin,30,muted\r\nHarl,20,lit\r\n"Tarsk ""old"" 🌊 & <b>",5,muted\r\n',
  );
  const json = await (await picture('bars.json')).json();
  expect(json[0]).toEqual({ quay: 'Quel', 'total tons': 40, state: 'plain' });
});

it('asks the data anew for what its filters keep, also where figures cannot be added up', async () => {
  const rows = async (file: string) => (await (await picture(file)).text()).trim().split('\r\n').slice(1);
  expect(await rows('ring.csv?quays=Quel&quays=Harl')).toEqual(['Quel,40,plain', 'Harl,20,plain']);
  expect(await rows('distinct.csv?quays=Harl')).toEqual(['Harl,1,plain']);
});

it('is not sent again while nothing has changed, and anew once something has', async () => {
  const first = await picture('bars.svg');
  const tag = first.headers.get('etag')!;
  expect((await picture('bars.svg', { 'if-none-match': tag })).status).toBe(304);
  expect((await picture('bars.svg?quays=Harl', { 'if-none-match': tag })).status).toBe(200);
  await t.refresh(dataset, 'quay,tons\nSkarrow,70\n', 'mode=append');
  const later = await picture('bars.svg', { 'if-none-match': tag });
  expect(later.status).toBe(200);
  expect(await later.text()).toContain('Skarrow');
});

it('what cannot be is answered with the place and the remedy', async () => {
  const problem = async (path: string) => {
    const response = await t.request(path);
    return { status: response.status, ...(await response.json()) };
  };
  expect(await problem('/pictures/none/bars.svg')).toMatchObject({ status: 404 });
  for (const file of ['nothing.svg', 'bars.gif', 'bars'])
    expect(await problem(`/pictures/landings/${file}`)).toMatchObject({
      status: 404,
      detail: expect.stringContaining('bars, ring, distinct'),
    });
  const pointers = async (query: string) => {
    const { status, errors } = await problem(`/pictures/landings/bars.svg?${query}`);
    return { status, pointers: [...new Set(errors.map(({ pointer }: { pointer: string }) => pointer))] };
  };
  for (const [query, pointer] of [
    ['width=12', '/width'],
    ['width=many', '/width'],
    ['scale=9', '/scale'],
    ['theme=pink', '/theme'],
    ['lang=x', '/lang'],
    ['caption=maybe', '/caption'],
    ['quay=Harl', '/quay'],
    ['secret=Harl', '/secret'],
  ])
    expect(await pointers(query!)).toEqual({ status: 422, pointers: [pointer] });
  // A lever that is called as a word of the address is named with what begins the names of levers.
  expect(await svg('bars.svg?lever.width=Harl')).toContain('Tons by quay');
});

it('a picture that would be too large is none, with what to do about it; its values are there', async () => {
  const dots = await picture('bars.png?width=4000&height=4000&scale=4');
  expect(dots.status).toBe(413);
  expect((await dots.json()).detail).toContain('smaller scale');
  expect((await picture('bars.svg?width=4000&height=4000')).status).toBe(200);

  const lines = Array.from({ length: 20_001 }, (_, i) => `Berth ${i},${i}`);
  const many = (await t.importCsv(`berth,tons\n${lines.join('\n')}\n`, 'Berths.csv')).dataset!;
  const document = {
    version: 1,
    title: 'Berths',
    levers: [],
    charts: [plainChart(many, { by: { field: 'berth' }, measure: { aggregate: 'sum', field: 'tons' } })],
  };
  expect((await t.send('POST', '/api/boards', { document })).status).toBe(201);
  const marks = await t.request('/pictures/berths/chart.svg');
  expect(marks.status).toBe(413);
  expect((await marks.json()).detail).toContain('20,001 marks');
  expect((await (await t.request('/pictures/berths/chart.csv')).text()).split('\r\n')).toHaveLength(20_003);
});

it('a whole board is a picture: charts and notes where they lie, with where its levers stand', async () => {
  const response = await whole('landings.svg?quays=Harl');
  expect([response.status, response.headers.get('content-type')]).toEqual([200, 'image/svg+xml']);
  const text = await response.text();
  for (const said of ['Landings', 'Tons by quay', 'Ring', '1 of 5 quays lit: Harl (20).', 'Only', '• Harl'])
    expect(text, said).toContain(`>${said}`);
  expect(text).toMatch(/>Quays: Harl · Width: .*2026|>Quays: Harl · Width: none · /);
  expect(text).not.toContain('Secret');
  expect(text).not.toContain('var(');
  const ids = [...text.matchAll(/ id="([^"]+)"/g)].map(([, id]) => id);
  expect(new Set(ids).size).toBe(ids.length);
  const png = Buffer.from(await (await whole('landings.png?scale=1&width=900')).arrayBuffer());
  expect(png.readUInt32BE(16)).toBe(900);
  expect((await whole('landings.csv')).status).toBe(404);
  expect((await whole('none.svg')).status).toBe(404);
  expect((await whole('landings.svg?paper=a5')).status).toBe(422);
});

it('and as a PDF of one or several pages, which says what it shows', async () => {
  const pdf = async (query: string) => {
    const response = await whole(`landings.pdf?${query}`);
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    const text = Buffer.from(await response.arrayBuffer()).toString('latin1');
    const [, width, height] = /\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/.exec(text)!;
    return {
      text,
      pages: text.split('/Type /Page\n').length - 1,
      width: Number(width),
      height: Number(height),
    };
  };
  const wide = await pdf('quays=Harl');
  expect(wide.text.startsWith('%PDF-1.7')).toBe(true);
  expect(wide.width).toBeGreaterThan(wide.height);
  expect(wide.text).toContain('/Figure');
  expect(wide.text).toContain('/Lang');
  const tall = await pdf('orientation=portrait&paper=letter');
  expect([tall.width, tall.height]).toEqual([612, 792]);
  expect((await pdf('height=4000')).pages).toBeGreaterThan(wide.pages);
});

it('a chart of a board that cannot be drawn says why in its place', async () => {
  const spare = (await t.importCsv('quay,crew\nQuel,4\n', 'Crews.csv')).dataset!;
  const document = {
    version: 1,
    title: 'Two',
    levers: [],
    charts: [
      plainChart(dataset, { id: 'good', title: 'Good', by: { field: 'quay' } }),
      plainChart(spare, { id: 'lost', title: 'Lost', by: { field: 'quay' } }),
    ],
  };
  expect((await t.send('POST', '/api/boards', { document })).status).toBe(201);
  expect(await (await whole('two.svg')).text()).toContain('>Lost');
  await t.send('DELETE', `/api/datasets/${spare}?boards=keep`);
  await t.database.pool.query('DELETE FROM sorvik.datasets WHERE id = $1', [spare]);
  t.database.changes.tell();
  const text = await (await whole('two.svg')).text();
  expect(text).toContain('>Good');
  expect(text).toContain('>Lost');
  expect(text).toMatch(/dataset/i);
});
