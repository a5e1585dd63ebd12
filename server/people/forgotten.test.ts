import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type TeamApp, teamApp } from '../testing/team-app';

const mails: { to: string[]; text: string }[] = [];
let smtp: SMTPServer;
let team: TeamApp;

beforeAll(async () => {
  smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS'],
    onData(stream, session, done) {
      let text = '';
      stream.on('data', (chunk) => {
        text += chunk;
      });
      stream.on('end', () => {
        // As it was before it was made fit for lines of mail.
        const plain = text.replaceAll(/=\r?\n/g, '').replaceAll('=3D', '=');
        mails.push({ to: session.envelope.rcptTo.map(({ address }) => address), text: plain });
        done();
      });
    },
  });
  await new Promise<void>((done) => smtp.listen(0, '127.0.0.1', done));
  const address = smtp.server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  team = await teamApp({ mail: { server: `smtp://127.0.0.1:${port}`, from: 'sorvik@example.org' } });
  await team.invited('Vito');
});
afterAll(async () => {
  await team.t.close();
  await new Promise<void>((done) => smtp.close(() => done()));
});

const ask = (email: string) => team.as(null, 'POST', '/api/sign-in/forgotten', { email });

describe('a forgotten password', () => {
  it('is chosen anew by a link that is mailed', async () => {
    expect((await team.as(null, 'GET', '/api/me')).body).toEqual({ team: true, mails: true });
    expect((await ask('VITO@example.org')).status).toBe(204);
    await expect.poll(() => mails.length).toBe(1);
    const [{ to, text }] = mails as [(typeof mails)[0]];
    expect(to).toEqual(['vito@example.org']);
    const [, token] = /https:\/\/boards\.example\.org\/invitation#([\w-]+)/.exec(text)!;
    const taken = await team.as(null, 'POST', '/api/invitations/take', {
      token,
      password: 'nine grey seals here',
    });
    expect([taken.status, taken.body.person.name]).toEqual([200, 'Vito']);
    const again = await team.as(null, 'POST', '/api/invitations/take', {
      token,
      password: 'nine grey seals here',
    });
    expect(again.status).toBe(404);
    const { body } = await team.as('Olga', 'GET', '/api/audit?action=reset-link-made');
    expect(body[0]).toMatchObject({
      person: null,
      thing: `person/${team.ids.Vito}`,
      detail: { mailed: true },
    });
  });

  it('is answered the same where nobody has the address, or is switched off, and nothing is mailed', async () => {
    await team.as('Olga', 'PATCH', `/api/people/${team.ids.Vito}`, { off: true });
    const before = mails.length;
    for (const email of ['nobody@example.org', 'vito@example.org'])
      expect((await ask(email)).status).toBe(204);
    await new Promise((go) => setTimeout(go, 300));
    expect(mails.length).toBe(before);
  });

  it('is not mailed to one address again and again, nor asked for from one place without an end', async () => {
    const statuses: number[] = [];
    for (let i = 0; i < 20; i++) statuses.push((await ask('olga@example.org')).status);
    expect(new Set(statuses)).toEqual(new Set([204, 429]));
    await expect.poll(() => mails.filter(({ to }) => to[0] === 'olga@example.org').length).toBe(3);
  });

  it('is refused what is no address, or more than one', async () => {
    for (const email of ['x', 'a@example.org, b@example.org', 'a@example.org\nBcc: b@example.org'])
      expect((await ask(email)).status).toBeGreaterThanOrEqual(422);
    expect(mails.some(({ to }) => to.length > 1 || to[0] === 'b@example.org')).toBe(false);
  });
});

it('a server that mails nothing says so', async () => {
  const other = await teamApp();
  expect((await other.as(null, 'POST', '/api/sign-in/forgotten', { email: 'olga@example.org' })).status).toBe(
    404,
  );
  await other.t.close();
});
