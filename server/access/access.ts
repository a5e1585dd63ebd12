import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Context } from 'hono';
import { getCookie } from 'hono/cookie';
import type { Database } from '../db/client';
import { rights } from '../db/schema';
import { HttpProblem, notFound } from '../http/problem';
import { importedAs } from '../imports/imported-as';
import type { Links } from '../links/links';
import { PersonTokens } from '../people/person-tokens';
import type { Person, Sessions, Signed } from '../people/sessions';
import { tell } from '../tell';
import type { Audit } from './audit';
import { activePerson, hasRowRule } from './goes-on';
import type { Limits } from './limits';
import {
  type Action,
  type Admission,
  type Counted,
  isAtLeast,
  type Needs,
  type Role,
  roles,
  type ShownLimits,
  type Thing,
  type Visit,
} from './needs';
import { heldBy, roleOf } from './roles';
import { ShownThroughBoards } from './shown-data';

/** How the server is for a team; alone it has none of this. */
export interface Team {
  sessions: Sessions;
  /** The name of the cookie that a session is in. */
  cookie: string;
  links: Links;
  limits: Limits;
  addressOf(c: Context): string;
  tokens: PersonTokens;
}

const visitsOf = new WeakMap<Context, Promise<Visit[]>>();
const visitOf = new WeakMap<Context, Visit>();
const limitsOf = new WeakMap<Context, ShownLimits>();
const signedOf = new WeakMap<Context, Signed | null>();

/** The header in which a link is named by whoever has not followed it in a browser. */
export const linkHeader = 'sorvik-link';

/** What an address with a link in it may be of: a picture, the page of a show, and what changes while it is open. */
const linkedPaths = /^\/(pictures\/|show\/|api\/changes$)/;

/** The link that a request names: in a header, or in an address. */
export const linkGiven = (c: Context): string | undefined =>
  c.req.header(linkHeader) ?? (linkedPaths.test(c.req.path) ? c.req.query('link') : undefined);

/** So many links at a time are looked at of one browser. */
const mostVisits = 20;

const seerOf = (person: Person | undefined, visits: readonly Visit[]) => ({
  person: person?.id ?? null,
  boards: visits.map(({ board }) => board).sort(),
});

/** The one place that decides who may do what. Where there is no team, whoever is at the machine may do all. */
export class Access implements Admission {
  private readonly shown: ShownThroughBoards;

  constructor(
    private readonly database: Database,
    readonly team: Team | null,
    private readonly audit: Audit,
    /** Who has begun an import; undefined where there is none such. */
    private readonly importBy: (id: string) => string | undefined,
  ) {
    this.shown = new ShownThroughBoards(database, async (person, dataset) => {
      const found = await activePerson(database, person);
      return found !== undefined && (await this.roleOf(found, 'dataset', dataset)) !== null;
    });
  }

  /** Who asks; null where nobody is signed in, or there is no team. */
  async signed(c: Context): Promise<Signed | null> {
    if (!this.team) return null;
    const known = signedOf.get(c);
    if (known !== undefined) return known;
    const found = await this.found(c, this.team);
    signedOf.set(c, found);
    return found;
  }

  /** By a token where one is given, and by a cookie otherwise. */
  private async found(c: Context, { cookie, sessions, tokens }: Team): Promise<Signed | null> {
    const given = PersonTokens.given(c.req.header('authorization'));
    if (given !== null) {
      const found = await tokens.of(given);
      if (!found)
        throw new HttpProblem(
          401,
          'token-needed',
          tell('people.tokenOver'),
          {},
          { 'www-authenticate': 'Bearer' },
        );
      return { session: '', ...found };
    }
    const token = getCookie(c, cookie);
    return token ? sessions.of(token) : null;
  }

  /** Throws where a program acts for somebody who would have to do this themselves. */
  private async needScope(c: Context, needs: Needs): Promise<void> {
    const scope = (await this.signed(c))?.scope;
    if (scope === undefined) return;
    const own = needs === 'owner' || (typeof needs === 'object' && Object.values(needs)[0] === 'own');
    const mine = c.req.path.startsWith('/api/me') || c.req.path.startsWith('/api/links');
    const reads = c.req.method === 'GET';
    const enough = scope === 'edit' ? !own : scope === 'read' && reads && !own;
    if (mine || !enough) throw new HttpProblem(403, 'not-allowed', tell('people.tokenScope', { scope }));
  }

  async pusher(c: Context, dataset: string): Promise<string | null> {
    const signed = await this.signed(c);
    if (!signed || signed.scope === undefined || signed.scope === 'read') return null;
    await this.need(signed.person, 'dataset', dataset, 'edit');
    return signed.person.name;
  }

  /** Who asks. Throws 401 where nobody is signed in. */
  async person(c: Context): Promise<Person> {
    const signed = await this.signed(c);
    if (!signed) throw new HttpProblem(401, 'sign-in', tell('access.signIn'));
    return signed.person;
  }

  /** Throws where whoever asks may not. What somebody may not even see is not there for them. */
  async admit(c: Context, needs: Needs): Promise<void> {
    if (!this.team || needs === 'nothing') return;
    await this.needScope(c, needs);
    const id = c.req.param('id')!;
    if (needs === 'visitor') return this.needVisitor(c);
    if (typeof needs === 'object' && 'board' in needs && needs.board === 'shown')
      return this.needShown(c, id);
    if (typeof needs === 'object' && 'dataset' in needs && needs.dataset === 'shown')
      return this.needShownData(c, id);
    const person = await this.person(c);
    if (needs === 'person') return;
    if (needs === 'its-import') {
      if (person.owner || this.importBy(id) === person.id) return;
      // Sent to another server it is known by what it has become.
      const done = this.importBy(id) === undefined ? await importedAs(this.database.db, id) : null;
      if (done && (await this.roleOf(person, 'dataset', done.dataset)) === 'own') return;
      throw notFound('import', id);
    }
    if (needs === 'owner') {
      if (!person.owner) throw new HttpProblem(403, 'not-allowed', tell('access.ownersOnly'));
      return;
    }
    const [[kind, wanted]] = Object.entries(needs) as [[Thing, Role]];
    await this.need(person, kind, id, wanted);
  }

  /** The links that whoever asks has come by. */
  private visits(c: Context): Promise<Visit[]> {
    const { team } = this;
    if (!team) return Promise.resolve([]);
    const known = visitsOf.get(c);
    if (known) return known;
    const named = Object.entries(getCookie(c)).filter(([name]) => name.startsWith(this.visitCookie('')));
    const given = linkGiven(c);
    const found = Promise.all([
      ...named.slice(0, mostVisits).map(([, token]) => team.links.visit(token)),
      ...(given === undefined ? [] : [team.links.open(given)]),
    ]).then((all) => all.filter((visit) => visit !== null));
    visitsOf.set(c, found);
    return found;
  }

  /** The name of the cookie of whoever has come by a link. */
  visitCookie(link: string): string {
    return `${this.team?.cookie}-visit-${link.slice(0, 8)}`;
  }

  /** Throws 401 where nobody is signed in, nor has come by a link. */
  private async needVisitor(c: Context): Promise<void> {
    if (!(await this.signed(c)) && !(await this.visits(c)).length) this.refuse(c);
  }

  /** Whoever is not signed in is asked to; whoever came by a link is told that it is over. */
  private refuse(c: Context): never {
    const came =
      linkGiven(c) !== undefined ||
      Object.keys(getCookie(c)).some((name) => name.startsWith(this.visitCookie('')));
    throw came
      ? new HttpProblem(401, 'link-ended', tell('links.ended'))
      : new HttpProblem(401, 'sign-in', tell('access.signIn'));
  }

  async needShown(c: Context, board: string): Promise<void> {
    if (!this.team) return;
    const person = (await this.signed(c))?.person;
    if (person && (await this.roleOf(person, 'board', board))) return;
    const visit = (await this.visits(c)).find((each) => each.board === board);
    if (visit) {
      visitOf.set(c, visit);
      return;
    }
    if (person) throw notFound('board', board);
    this.refuse(c);
  }

  /** The same of a dataset: whoever sees it on boards alone keeps to what those show. */
  private async needShownData(c: Context, dataset: string): Promise<void> {
    const person = (await this.signed(c))?.person;
    if (person && (await this.roleOf(person, 'dataset', dataset))) return;
    const visits = await this.visits(c);
    if (!person && !visits.length) this.refuse(c);
    const shown = await this.shown.of(seerOf(person, visits), dataset);
    if (!shown) throw notFound('dataset', dataset);
    limitsOf.set(c, shown);
  }

  /** The origins whose pages may show what the link that a request names shows. */
  async pagesFor(c: Context): Promise<readonly string[]> {
    const given = linkGiven(c);
    const visit = given === undefined ? null : await this.team?.links.open(given);
    return visit?.origins ?? [];
  }

  visit(c: Context): Visit | null {
    return visitOf.get(c) ?? null;
  }

  limits(c: Context): ShownLimits | null {
    return limitsOf.get(c) ?? null;
  }

  async followed(c: Context, datasets: readonly string[]): Promise<string[]> {
    if (!this.team) return [...datasets];
    this.askAnew(c);
    const person = (await this.signed(c))?.person;
    const seer = seerOf(person, await this.visits(c));
    const found = await Promise.all(
      datasets.map(
        async (id) =>
          (person && (await this.roleOf(person, 'dataset', id)) !== null) ||
          (await this.shown.of(seer, id)) !== null,
      ),
    );
    return datasets.filter((_, i) => found[i]);
  }

  /** It may be long since whoever asks was let in: who they are is found out once more. */
  private askAnew(c: Context): void {
    signedOf.delete(c);
    visitsOf.delete(c);
  }

  async mayStill(c: Context, needs: Needs): Promise<boolean> {
    this.askAnew(c);
    try {
      await this.admit(c, needs);
      return true;
    } catch (error) {
      if (error instanceof HttpProblem) return false;
      throw error;
    }
  }

  async asker(c: Context): Promise<Person | null> {
    return (await this.signed(c))?.person ?? null;
  }

  async also(c: Context, kind: Thing, id: string, wanted: Role): Promise<void> {
    if (this.team) await this.need(await this.person(c), kind, id, wanted);
  }

  async count(c: Context, what: Counted): Promise<void> {
    const { team } = this;
    if (!team) return;
    // Whoever came by a link has no name but the place they came from.
    const who = (await this.signed(c))?.person.id ?? `place/${team.addressOf(c)}`;
    await team.limits.count(who, what);
  }

  async note(c: Context, action: Action, thing: string): Promise<void> {
    await this.audit.note(c, { action, thing });
  }

  /** Throws where a person has not a role on something. */
  async need(person: Person, kind: Thing, id: string, wanted: Role): Promise<void> {
    const role = await this.roleOf(person, kind, id);
    // Whoever may change rows, or fetch them all, sees them all.
    if (kind === 'dataset' && wanted === 'edit' && role === 'edit' && (await hasRowRule(this.database, id)))
      throw new HttpProblem(403, 'not-allowed', tell('access.rowsOfOthers'));
    if (isAtLeast(role, wanted)) return;
    if (!role) throw notFound(kind, id);
    throw new HttpProblem(403, 'not-allowed', tell('access.needsRole', { kind, role: wanted }));
  }

  private roleOf(person: Person, kind: Thing, thing: string): Promise<Role | null> {
    return roleOf(this.database, person, kind, thing);
  }

  async visible<T extends { id: string }>(
    c: Context,
    kind: Thing,
    things: readonly T[],
    wanted: Role = 'view',
  ) {
    if (!this.team) return [...things];
    const person = (await this.signed(c))?.person;
    if (!person) {
      const boards = wanted === 'view' && kind === 'board' ? await this.visits(c) : [];
      return things.filter(({ id }) => boards.some(({ board }) => board === id));
    }
    if (person.owner) return [...things];
    const enough = roles.filter((role) => isAtLeast(role, wanted));
    const found = await this.database.db
      .select({ thing: rights.thing })
      .from(rights)
      .where(and(eq(rights.kind, kind), inArray(rights.role, enough), heldBy(this.database.db, person.id)));
    const seen = new Set(found.map(({ thing }) => thing));
    return things.filter(({ id }) => seen.has(id));
  }

  async give(kind: Thing, thing: string, grantee: string, role: Role): Promise<void> {
    await this.database.db
      .insert(rights)
      .values({ kind, thing, grantee, role })
      .onConflictDoUpdate({
        target: [rights.kind, rights.thing, rights.grantee],
        set: { role, madeAt: sql`now()` },
      });
  }
}
