import { IsOptional, IsString, Matches, MaxLength, ValidateIf } from 'class-validator';
import { Numbered } from '../changes/numbered';
import type { Database } from '../db/client';
import type { Routes } from '../http/routes';
import { toldEvents } from '../http/told-events';
import { Authors } from './authors';

/** A name that a page has made up for itself. */
const isTab = /^[\w-]{8,40}$/;

class HereInput {
  @Matches(isTab)
  tab!: string;

  /** The chart that is worked at; null while it is none. */
  @ValidateIf((_, value) => value !== null)
  @IsString()
  @MaxLength(100)
  chart!: string | null;
}

class ChangesQuery {
  /** The name of the page that follows: others are told that it is there. */
  @IsOptional()
  @Matches(isTab)
  tab?: string;
}

/** Those who work at one board see each other, and what each saves. */
export function addAuthorRoutes(routes: Routes, database: Database): void {
  const authors = new Authors(database);
  const revisions = new Numbered(database, 'boards');
  routes
    .add(
      {
        method: 'post',
        path: '/api/boards/:id/authors',
        needs: { board: 'edit' },
        summary: 'Say at which chart of a board somebody works who follows its changes',
        stores: false,
        body: HereInput,
        answers: { 204: null },
      },
      async (c, { body }) => {
        const person = await routes.access.asker(c);
        if (person) {
          const { id, name } = person;
          await authors.turn({ board: c.req.param('id')!, ...body, person: id, name });
        }
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'get',
        path: '/api/boards/:id/changes',
        needs: { board: 'edit' },
        summary:
          'The revision of a board and who else works at it, now and whenever that changes, as server-sent events',
        query: ChangesQuery,
        answers: { 200: 'text/event-stream' },
      },
      async (c, { query: { tab } }) => {
        const board = c.req.param('id')!;
        const person = await routes.access.asker(c);
        await revisions.look();
        let revision: number | undefined;
        let others = '[]';
        return toldEvents(c, {
          follow: (wake) => {
            const ends = [revisions.follow(wake), authors.follow(wake)];
            if (person && tab !== undefined)
              ends.push(authors.enter({ board, tab, person: person.id, name: person.name }));
            return () => {
              for (const end of ends.splice(0)) end();
            };
          },
          mayHear: () => routes.access.mayStill(c, { board: 'edit' }),
          news: () => {
            const told: { event: string; data: string }[] = [];
            const now = revisions.of(board);
            if (now !== undefined && now !== revision) {
              revision = now;
              told.push({ event: 'board', data: JSON.stringify({ revision }) });
            }
            const there = JSON.stringify(authors.others(board, person?.id ?? ''));
            if (there !== others) {
              others = there;
              told.push({ event: 'authors', data: there });
            }
            return told;
          },
        });
      },
    );
}
