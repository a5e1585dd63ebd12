import { randomUUID } from 'node:crypto';
import { and, desc, eq, gt, isNotNull, isNull, lt, or, sql } from 'drizzle-orm';
import type { Visit } from '../access/needs';
import type { Database } from '../db/client';
import { Remembered } from '../db/remembered';
import { boards, links, people, visits } from '../db/schema';
import { HttpProblem } from '../http/problem';
import { hashPassword, isPassword } from '../people/password';
import { hashOf, newToken } from '../people/tokens';
import { tell } from '../tell';

export interface NewLink {
  name: string;
  positions: string;
  fixed: string[];
  /** The origins whose pages may show it. */
  origins: string[];
  /** It ends after so many days; never where it is null. */
  days: number | null;
  password: string | null;
}

/** Whoever has followed a link is let in by it for so long, and then follows it again; days. */
export const visitDays = 7;
/** What was found of a visit a moment ago holds for so long, ms, unless something changes. */
const knownFor = 60_000;

const columns = {
  id: links.id,
  name: links.name,
  positions: links.positions,
  fixed: links.fixed,
  origins: links.origins,
  locked: sql<boolean>`${links.password} IS NOT NULL`,
  madeBy: people.name,
  createdAt: links.createdAt,
  endsAt: links.endsAt,
  uses: links.uses,
  usedAt: links.usedAt,
};

/** What whoever has come by a link is told by. */
const visited = {
  link: links.id,
  board: links.board,
  positions: links.positions,
  fixed: links.fixed,
  origins: links.origins,
};

const lives = or(isNull(links.endsAt), gt(links.endsAt, sql`now()`))!;
const isYoung = sql`${visits.createdAt} > now() - make_interval(days => ${visitDays})`;

/** Links to published boards: whoever has one is let in, to that board and nothing else. */
export class Links {
  private readonly known: Remembered<Visit>;

  constructor(private readonly database: Database) {
    this.known = new Remembered(database.changes, ['links', 'boards'], { max: 5000, ttl: knownFor });
  }

  list(board: string) {
    return this.database.db
      .select(columns)
      .from(links)
      .leftJoin(people, eq(people.id, links.madeBy))
      .where(eq(links.board, board))
      .orderBy(desc(links.createdAt));
  }

  /** Makes one; what comes back with it is told once. Throws 409 for a board that is not published. */
  async make(board: string, made: NewLink, by: string) {
    const { db } = this.database;
    const [found] = await db.select({ published: boards.published }).from(boards).where(eq(boards.id, board));
    if (found?.published == null) throw new HttpProblem(409, 'not-published', tell('links.notPublished'));
    const token = newToken();
    const id = randomUUID();
    const { name, positions, fixed, origins, days, password } = made;
    await db.insert(links).values({
      id,
      hash: hashOf(token),
      board,
      name: name.trim(),
      positions,
      fixed,
      origins,
      password: password === null ? null : await hashPassword(password),
      madeBy: by,
      ...(days === null ? {} : { endsAt: sql`now() + make_interval(days => ${days})` as unknown as string }),
    });
    const link = (await this.list(board)).find((each) => each.id === id)!;
    return { token, link };
  }

  /** Withdraws one: whoever has come by it sees nothing any more. Gives its name; null where there is none such. */
  async withdraw(board: string, id: string): Promise<string | null> {
    const [gone] = await this.database.db
      .delete(links)
      .where(and(eq(links.board, board), eq(links.id, id)))
      .returning({ name: links.name });
    this.known.forget();
    return gone?.name ?? null;
  }

  /** What a link is; throws 404 for one that has ended, or was withdrawn. */
  async find(token: string) {
    const [found] = await this.database.db
      .select({
        id: links.id,
        board: links.board,
        positions: links.positions,
        fixed: links.fixed,
        name: links.name,
        password: links.password,
      })
      .from(links)
      .innerJoin(boards, eq(boards.id, links.board))
      .where(and(eq(links.hash, hashOf(token)), lives, isNull(boards.deletedAt)));
    if (!found) throw new HttpProblem(404, 'link-ended', tell('links.ended'));
    return found;
  }

  /** Whether a password is that of a link; any is where it has none. */
  fits({ password }: { password: string | null }, given: string): Promise<boolean> {
    return password === null ? Promise.resolve(true) : isPassword(password, given);
  }

  /** Somebody follows a link; what comes back is for their browser alone. */
  async enter(link: string): Promise<string> {
    const token = newToken();
    const { db } = this.database;
    await db.insert(visits).values({ hash: hashOf(token), link });
    await db
      .update(links)
      .set({ uses: sql`${links.uses} + 1`, usedAt: sql`now()` })
      .where(eq(links.id, link));
    return token;
  }

  /** Who has come by a link; null where it has ended, was withdrawn, or is of a board that is no longer published. */
  visit(token: string): Promise<Visit | null> {
    const hash = hashOf(token);
    return this.known.of(hash, () => this.findVisit(hash));
  }

  /** What a link itself shows, to whoever names it without following it; null for one that wants a password too. */
  open(token: string): Promise<Visit | null> {
    const hash = hashOf(token);
    return this.known.of(`link:${hash}`, () => this.findOpen(hash));
  }

  private async findOpen(hash: string): Promise<Visit | null> {
    const [found] = await this.database.db
      .select(visited)
      .from(links)
      .innerJoin(boards, eq(boards.id, links.board))
      .where(
        and(
          eq(links.hash, hash),
          lives,
          isNull(links.password),
          isNull(boards.deletedAt),
          isNotNull(boards.published),
        ),
      );
    return found ?? null;
  }

  private async findVisit(hash: string): Promise<Visit | null> {
    const [found] = await this.database.db
      .select(visited)
      .from(visits)
      .innerJoin(links, eq(links.id, visits.link))
      .innerJoin(boards, eq(boards.id, links.board))
      .where(
        and(eq(visits.hash, hash), isYoung, lives, isNull(boards.deletedAt), isNotNull(boards.published)),
      );
    return found ?? null;
  }

  /** Removes what has ended. */
  async sweep(): Promise<void> {
    await this.database.db.delete(links).where(lt(links.endsAt, sql`now() - interval '30 days'`));
    await this.database.db.delete(visits).where(sql`NOT (${isYoung})`);
  }
}
