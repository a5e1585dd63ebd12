import { Agent, request } from 'node:http';
import { median, quantile, rounded } from './statistics';

const people = 200;
const seconds = 60;
/** Somebody does something every so often, ms. */
const pause = 3000;
const rows = 100_000;
const password = 'seven brown herons';

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Rows of landings, of which each quay has a keeper. */
function landings(): string {
  const lines = ['quay,keeper,day,tons'];
  for (let i = 0; i < rows; i++) {
    const day = new Date(Date.UTC(2020, 0, 1 + (i % 1500))).toISOString().slice(0, 10);
    lines.push(`Quay ${i % 40},person${i % people}@example.org,${day},${(i * 37) % 101}`);
  }
  return `${lines.join('\n')}\n`;
}

/**
 * So many people who are signed in at a server for a team, each with a rule on the rows that they see: they open shows, look at home, move
 * filters, and save boards of their own. Times are to the last byte, in the sender, which shares the machine.
 */
export async function teamLoad(url: string, link: string) {
  const agent = new Agent({ keepAlive: true, maxSockets: 128 });
  const times: Record<string, number[]> = {};
  const failures: Record<string, number> = {};
  const note = (kind: string, ms: number) => {
    times[kind] ??= [];
    times[kind].push(ms);
  };
  const cookies: string[] = [];
  const ask = (who: number, kind: string, method: string, path: string, body?: unknown, headers = {}) =>
    new Promise<{ status: number; cookie: string | undefined; body: string }>((done) => {
      const started = performance.now();
      const text = body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body);
      const failed = (status: number) => {
        failures[`${kind} ${status}`] = (failures[`${kind} ${status}`] ?? 0) + 1;
        done({ status, cookie: undefined, body: '' });
      };
      const outgoing = request(
        url + path,
        {
          agent,
          method,
          headers: {
            ...(method === 'GET' ? { 'accept-encoding': 'gzip' } : { origin: url }),
            ...(cookies[who] ? { cookie: cookies[who] } : {}),
            ...(text === undefined ? {} : { 'content-type': 'application/json' }),
            ...headers,
          },
        },
        (response) => {
          let found = '';
          response.on('data', (chunk) => {
            if (method !== 'GET' || kind === 'setup') found += chunk;
          });
          response.on('end', () => {
            if (response.statusCode! >= 400) return failed(response.statusCode!);
            if (kind !== 'setup') note(kind, performance.now() - started);
            done({
              status: response.statusCode!,
              cookie: response.headers['set-cookie']?.[0]?.split(';')[0],
              body: found,
            });
          });
        },
      );
      outgoing.on('error', () => failed(0));
      outgoing.end(text);
    });
  const setup = async (who: number, method: string, path: string, body?: unknown, headers = {}) => {
    const answer = await ask(who, 'setup', method, path, body, { 'accept-encoding': 'identity', ...headers });
    if (answer.status >= 400 || answer.status === 0) throw new Error(`${method} ${path}: ${answer.status}`);
    return { ...answer, json: answer.body ? JSON.parse(answer.body) : undefined };
  };
  const enter = async (who: number, token: string) => {
    const { cookie } = await setup(who, 'POST', '/api/invitations/take', {
      token,
      name: `Person ${who}`,
      email: `person${who}@example.org`,
      password,
    });
    cookies[who] = cookie!;
  };

  await enter(0, link.split('#')[1]!);
  for (let who = 1; who < people; who++) {
    const { json } = await setup(0, 'POST', '/api/people/invitations', {});
    await enter(who, json.path.split('#')[1]);
  }
  const sent = await setup(0, 'POST', '/api/imports?name=Landings.csv', landings(), {
    'content-type': 'text/csv',
  });
  let dataset = '';
  while (!dataset) {
    await wait(200);
    dataset = (await setup(0, 'GET', `/api/imports/${sent.json.id}`)).json.dataset ?? '';
  }
  await setup(0, 'PUT', `/api/datasets/${dataset}/rights`, { grantee: 'everybody', role: 'view' });
  await setup(0, 'PUT', `/api/datasets/${dataset}/rule`, {
    rule: "keeper = :person_email OR quay < 'Quay 2'",
  });
  const chart = {
    id: 'c',
    dataset,
    form: 'columns',
    by: { field: 'quay' },
    measure: { aggregate: 'sum', field: 'tons' },
    order: { by: 'value', direction: 'descending' },
    cues: [],
    guides: [],
    touches: [],
  };
  const documentOf = (title: string) => ({ version: 1, title, levers: [], charts: [chart] });
  const shared = (await setup(0, 'POST', '/api/boards', { document: documentOf('Landings') })).json.id;
  await setup(0, 'POST', `/api/boards/${shared}/publish`, { revision: 1 });
  await setup(0, 'PUT', `/api/boards/${shared}/rights`, { grantee: 'everybody', role: 'view' });
  const { version } = (await setup(0, 'GET', `/api/datasets/${dataset}`)).json;
  const own: { id: string; revision: number }[] = [];
  for (let who = 0; who < people; who++)
    own.push((await setup(who, 'POST', '/api/boards', { document: documentOf(`Board of ${who}`) })).json);

  const cube = `/api/datasets/${dataset}/cube?version=${version}&aggregate=sum.tons&key=quay`;
  const until = performance.now() + seconds * 1000;
  await Promise.all(
    Array.from({ length: people }, async (_, who) => {
      await wait((who / people) * pause);
      while (performance.now() < until) {
        const turn = Math.random();
        if (turn < 0.3) {
          await ask(who, 'show', 'GET', `/show/${shared}`);
          await Promise.all([
            ask(who, 'shown', 'GET', `/api/boards/${shared}/shown`),
            ask(who, 'dataset', 'GET', `/api/datasets/${dataset}`),
            ask(who, 'cube', 'GET', cube),
          ]);
        } else if (turn < 0.75) {
          const low = Math.floor(Math.random() * 60);
          const keep = JSON.stringify({ field: 'tons', ranges: [[low, low + 30]] });
          await ask(who, 'filter', 'GET', `${cube}&keep=${encodeURIComponent(keep)}`);
        } else if (turn < 0.85) await ask(who, 'home', 'GET', '/api/boards');
        else {
          const mine = own[who]!;
          const patch = [{ op: 'replace', path: '/title', value: `Title ${Math.random()}` }];
          const saved = await ask(who, 'save', 'PATCH', `/api/boards/${mine.id}`, patch, {
            'if-match': `"${mine.revision}"`,
          });
          if (saved.status === 200) mine.revision++;
        }
        await wait(pause * (0.5 + Math.random()));
      }
    }),
  );
  agent.destroy();
  return {
    people,
    seconds,
    failures,
    kinds: Object.entries(times).map(([kind, list]) => ({
      kind,
      count: list.length,
      medianMs: rounded(median(list), 1),
      p95Ms: rounded(quantile(list, 0.95), 1),
    })),
  };
}
