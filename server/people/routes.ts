import { IsBoolean, IsEmail, IsNotEmpty, IsOptional, IsString, MaxLength } from 'class-validator';
import type { Context } from 'hono';
import { deleteCookie } from 'hono/cookie';
import type { Access } from '../access/access';
import type { Audit } from '../access/audit';
import { keepInBrowser } from '../http/own-cookie';
import { HttpProblem, invalid } from '../http/problem';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { tell } from '../tell';
import { mostLetters } from './password';
import type { People } from './people';
import { longestDays, type Person } from './sessions';
import type { Tries } from './tries';

const longestName = 100;
/** The longest that an address can be (RFC 5321, 4.5.3.1). */
const longestEmail = 254;

class SignInInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(longestEmail)
  email!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(mostLetters)
  password!: string;
}

class TokenInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(100)
  token!: string;
}

class TakeInput extends TokenInput {
  @IsOptional()
  @IsEmail({}, { message: () => tell('people.noEmail') })
  @MaxLength(longestEmail)
  email?: string;

  @IsOptional()
  @IsString()
  @IsNotEmpty()
  @MaxLength(longestName)
  name?: string;

  @IsString()
  @MaxLength(mostLetters)
  password!: string;
}

class PasswordInput {
  @IsString()
  @MaxLength(mostLetters)
  now!: string;

  @IsString()
  @MaxLength(mostLetters)
  password!: string;
}

class NameInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(longestName)
  name!: string;
}

class InviteInput {
  /** Who follows the link becomes an owner. */
  @IsOptional()
  @IsBoolean()
  owner?: boolean;
}

class PersonInput {
  @IsOptional()
  @IsBoolean()
  owner?: boolean;

  @IsOptional()
  @IsBoolean()
  off?: boolean;
}

export interface PeopleParts {
  access: Access;
  people: People;
  tries: Tries;
  audit: Audit;
  addressOf(c: Context): string;
  /** Pages come over TLS: a cookie never goes any other way. */
  secure: boolean;
  /** What the provider of identities is called; null where there is none. */
  provider: string | null;
  /** Links can be mailed. */
  mails: boolean;
}

const shownPerson = ({ id, email, name, owner }: Person): Person => ({ id, email, name, owner });

/** Begins sessions of whoever signs in. */
export const beginner =
  ({ access, addressOf, secure }: Pick<PeopleParts, 'access' | 'addressOf' | 'secure'>) =>
  async (c: Context, person: Person): Promise<void> => {
    const { sessions, cookie } = access.team!;
    // Whoever was signed in here before is no longer: a cookie that somebody else has set is of no use to them.
    const before = await access.signed(c);
    if (before) await sessions.end(before.person.id, before.session);
    const token = await sessions.begin(person.id, {
      agent: c.req.header('user-agent') ?? '',
      address: addressOf(c),
    });
    keepInBrowser(c, cookie, token, { secure, seconds: longestDays * 86_400 });
  };

/** Who signs in, from where, and how people come in and go. */
export function addPeopleRoutes(routes: Routes, parts: PeopleParts): void {
  const { access, people, tries, audit, addressOf, provider, mails } = parts;
  const begin = beginner(parts);
  const needTeam = () => {
    if (!access.team) throw new HttpProblem(404, 'not-found', tell('people.alone'));
    return access.team;
  };
  const own = (link: { token: string; endsAt: string }) => ({
    path: `/invitation#${link.token}`,
    endsAt: link.endsAt,
  });

  routes
    .add(
      {
        method: 'get',
        path: '/api/me',
        needs: 'nothing',
        summary: 'Whether the server is for a team, and who is signed in',
        answers: { 200: ref('Me') },
      },
      async (c) => {
        const signed = await access.signed(c);
        return c.json(
          {
            team: access.team !== null,
            ...(provider === null ? {} : { provider }),
            ...(mails ? { mails } : {}),
            ...(signed ? { person: shownPerson(signed.person) } : {}),
          },
          200,
          { 'cache-control': 'no-store' },
        );
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/sign-in',
        needs: 'nothing',
        summary: 'Sign in by password; the answer sets a cookie',
        stores: false,
        body: SignInInput,
        answers: { 200: ref('Me') },
      },
      async (c, { body }) => {
        needTeam();
        const email = body.email.trim().toLowerCase();
        const address = addressOf(c);
        await tries.before(email, address);
        const person = await people.withPassword(email, body.password);
        if (!person) {
          await tries.wrong(email, address);
          await audit.note(c, { action: 'sign-in-refused', detail: { email }, by: null });
          throw new HttpProblem(401, 'wrong-password', tell('people.wrongPassword'));
        }
        await tries.right(email, address);
        await begin(c, person);
        await audit.note(c, { action: 'signed-in', by: person });
        return c.json({ team: true, person: shownPerson(person) });
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/sign-out',
        needs: 'nothing',
        summary: 'End the session',
        stores: false,
        answers: { 204: null },
      },
      async (c) => {
        const { sessions, cookie } = needTeam();
        const signed = await access.signed(c);
        if (signed) {
          await sessions.end(signed.person.id, signed.session);
          await audit.note(c, { action: 'signed-out' });
        }
        deleteCookie(c, cookie, { path: '/', secure: parts.secure });
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'patch',
        path: '/api/me',
        needs: 'person',
        summary: 'Change the name that others see',
        body: NameInput,
        answers: { 204: null },
      },
      async (c, { body }) => {
        await people.rename((await access.person(c)).id, body.name);
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'put',
        path: '/api/me/password',
        needs: 'person',
        summary: 'Choose another password; all other sessions end',
        body: PasswordInput,
        answers: { 204: null },
      },
      async (c, { body }) => {
        const { sessions } = needTeam();
        const person = await access.person(c);
        const signed = (await access.signed(c))!;
        const address = addressOf(c);
        await tries.before(person.email, address);
        if (!(await people.withPassword(person.email, body.now))) {
          await tries.wrong(person.email, address);
          throw invalid([{ pointer: '/now', message: tell('people.wrongNow') }]);
        }
        await people.setPassword(person, body.password);
        await sessions.endOthers(person.id, signed.session);
        await audit.note(c, { action: 'password-changed' });
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'get',
        path: '/api/me/sessions',
        needs: 'person',
        summary: 'Where one is signed in',
        answers: { 200: listOf('Session') },
      },
      async (c) => {
        const signed = await access.signed(c);
        const found = signed ? await needTeam().sessions.list(signed.person.id) : [];
        return c.json(
          found.map(({ id, ...rest }) => ({ id, ...rest, here: id === signed!.session })),
          200,
          { 'cache-control': 'no-store' },
        );
      },
    )
    .add(
      {
        method: 'delete',
        path: '/api/me/sessions/:id',
        needs: 'person',
        summary: 'End one session of one’s own',
        answers: { 204: null },
      },
      async (c) => {
        const { sessions } = needTeam();
        const { id } = await access.person(c);
        if (!(await sessions.end(id, c.req.param('id')!)))
          throw new HttpProblem(404, 'not-found', tell('people.noSession'));
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/invitations/look',
        needs: 'nothing',
        summary: 'What an invitation is for',
        stores: false,
        body: TokenInput,
        answers: { 200: ref('Invitation') },
      },
      async (c, { body }) => {
        needTeam();
        const { id, email, name, owner } = await people.invitation(body.token);
        return c.json(id ? { known: true, email, name } : { known: false, owner });
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/invitations/take',
        needs: 'nothing',
        summary: 'Follow an invitation: choose a password, and be signed in',
        body: TakeInput,
        answers: { 200: ref('Me') },
      },
      async (c, { body }) => {
        const { sessions } = needTeam();
        const invitation = await people.invitation(body.token);
        if (!invitation.id)
          for (const field of ['email', 'name'] as const)
            if (!body[field]?.trim())
              throw invalid([{ pointer: `/${field}`, message: tell('people.needed', { field }) }]);
        const person = await people.take(body.token, {
          email: body.email ?? '',
          name: body.name ?? '',
          password: body.password,
        });
        await sessions.endOthers(person.id);
        await begin(c, person);
        await audit.note(c, { action: invitation.id ? 'password-reset' : 'joined', by: person });
        return c.json({ team: true, person: shownPerson(person) });
      },
    )
    .add(
      {
        method: 'get',
        path: '/api/people',
        needs: 'person',
        summary: 'Everybody who signs in here',
        answers: { 200: listOf('Person') },
      },
      async (c) => {
        const signed = await access.signed(c);
        const owner = signed?.person.owner ?? false;
        const all = await people.list();
        return c.json(owner ? all : all.filter(({ off }) => !off), 200, { 'cache-control': 'no-store' });
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/people/invitations',
        needs: 'owner',
        summary: 'A link by which somebody new comes in; it works once',
        body: InviteInput,
        answers: { 201: ref('Link') },
      },
      async (c, { body }) => {
        needTeam();
        const { id } = await access.person(c);
        const link = await people.invite({ owner: body.owner ?? false, madeBy: id });
        await audit.note(c, { action: 'invited', detail: body.owner ? { owner: true } : {} });
        return c.json(own(link), 201);
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/people/:id/reset',
        needs: 'owner',
        summary: 'A link by which a person chooses another password; it works once',
        answers: { 201: ref('Link') },
      },
      async (c) => {
        needTeam();
        const madeBy = (await access.person(c)).id;
        const person = c.req.param('id')!;
        if (!(await people.list()).some(({ id }) => id === person))
          throw new HttpProblem(404, 'not-found', tell('people.noSuch'));
        const link = await people.invite({ person, madeBy });
        await audit.note(c, { action: 'reset-link-made', thing: `person/${person}` });
        return c.json(own(link), 201);
      },
    )
    .add(
      {
        method: 'patch',
        path: '/api/people/:id',
        needs: 'owner',
        summary:
          'Make a person an owner, or switch one off: then nobody signs in as them, and their boards stay',
        body: PersonInput,
        answers: { 200: ref('Person') },
      },
      async (c, { body }) => {
        const { sessions } = needTeam();
        const changed = await people.change(c.req.param('id')!, body);
        if (changed.off) await sessions.endOthers(changed.id);
        await audit.note(c, { action: 'person-changed', thing: `person/${changed.id}`, detail: { ...body } });
        return c.json(changed);
      },
    );
}
