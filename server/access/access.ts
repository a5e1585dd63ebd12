import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Context } from 'hono';
import { getCookie } from 'hono/cookie';
import type { Database } from '../db/client';
import { datasets, people, rights } from '../db/schema';
import { HttpProblem, notFound } from '../http/problem';
import type { Person, Sessions, Signed } from '../people/sessions';
import { tell } from '../tell';
import type { Audit } from './audit';
import {
  type Action,
  type Admission,
  isAtLeast,
  type Needs,
  type Role,
  roles,
  type ShownLimits,
  type Thing,
} from './needs';
import { heldBy, roleOf } from './roles';
import { ShownThroughBoards } from './shown-data';

/** How the server is for a team; alone it has none of this. */
export interface Team {
  sessions: Sessions;
  /** The name of the cookie that a session is in. */
  cookie: string;
}

const limitsOf = new WeakMap<Context, ShownLimits>();
const signedOf = new WeakMap<Context, Signed | null>();

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
      const [found] = await database.db
        .select({ id: people.id, email: people.email, name: people.name, owner: people.owner })
        .from(people)
        .where(and(eq(people.id, person), eq(people.off, false)));
      return found !== undefined && (await this.roleOf(found, 'dataset', dataset)) !== null;
    });
  }

  /** Who asks; null where nobody is signed in, or there is no team. */
  async signed(c: Context): Promise<Signed | null> {
    if (!this.team) return null;
    const known = signedOf.get(c);
    if (known !== undefined) return known;
    const token = getCookie(c, this.team.cookie);
    const found = token ? await this.team.sessions.of(token) : null;
    signedOf.set(c, found);
    return found;
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
    const person = await this.person(c);
    if (needs === 'person') return;
    if (needs === 'its-import') {
      const id = c.req.param('id')!;
      if (!person.owner && this.importBy(id) !== person.id) throw notFound('import', id);
      return;
    }
    if (needs === 'owner') {
      if (!person.owner) throw new HttpProblem(403, 'not-allowed', tell('access.ownersOnly'));
      return;
    }
    const [[kind, wanted]] = Object.entries(needs) as [[Thing, Role | 'shown']];
    const id = c.req.param('id')!;
    if (wanted !== 'shown') return this.need(person, kind, id, wanted);
    if (await this.roleOf(person, kind, id)) return;
    const shown = await this.shown.of(person.id, id);
    if (!shown) throw notFound(kind, id);
    limitsOf.set(c, shown);
  }

  limits(c: Context): ShownLimits | null {
    return limitsOf.get(c) ?? null;
  }

  async followed(c: Context, datasets: readonly string[]): Promise<string[]> {
    if (!this.team) return [...datasets];
    const person = await this.person(c);
    const found = await Promise.all(
      datasets.map(
        async (id) =>
          (await this.roleOf(person, 'dataset', id)) !== null ||
          (await this.shown.of(person.id, id)) !== null,
      ),
    );
    return datasets.filter((_, i) => found[i]);
  }

  async also(c: Context, kind: Thing, id: string, wanted: Role): Promise<void> {
    if (this.team) await this.need(await this.person(c), kind, id, wanted);
  }

  async note(c: Context, action: Action, thing: string): Promise<void> {
    await this.audit.note(c, { action, thing });
  }

  /** Throws where a person has not a role on something. */
  async need(person: Person, kind: Thing, id: string, wanted: Role): Promise<void> {
    const role = await this.roleOf(person, kind, id);
    if (kind === 'dataset' && wanted === 'edit' && role === 'edit') await this.needAllRows(id);
    if (isAtLeast(role, wanted)) return;
    if (!role) throw notFound(kind, id);
    throw new HttpProblem(403, 'not-allowed', tell('access.needsRole', { kind, role: wanted }));
  }

  /** Throws for a dataset of which some rows are not for everybody: whoever may change rows, or fetch them all, sees them all. */
  private async needAllRows(dataset: string): Promise<void> {
    const [found] = await this.database.db
      .select({ rule: datasets.rowRule })
      .from(datasets)
      .where(eq(datasets.id, dataset));
    if (found && found.rule !== null) throw new HttpProblem(403, 'not-allowed', tell('access.rowsOfOthers'));
  }

  private roleOf(person: Person, kind: Thing, thing: string): Promise<Role | null> {
    return roleOf(this.database.db, person, kind, thing);
  }

  async visible<T extends { id: string }>(
    c: Context,
    kind: Thing,
    things: readonly T[],
    wanted: Role = 'view',
  ) {
    if (!this.team) return [...things];
    const person = await this.person(c);
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
