import { IsString, Matches, MaxLength, ValidateIf } from 'class-validator';
import { Numbered } from '../changes/numbered';
import type { Database } from '../db/client';
import type { Routes } from '../http/routes';
import { toldEvents } from '../http/told-events';
import { Authors } from './authors';

class HereInput {
  /** A name that the page has made up for itself. */
  @Matches(/^[\w-]{8,40}$/)
  tab!: string;

  /** The chart that is worked at; null while it is none. */
  @ValidateIf((_, value) => value !== null)
  @IsString()
  @MaxLength(100)
  chart!: string | null;
}

class GoneInput {
  @Matches(/^[\w-]{8,40}$/)
  tab!: string;
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
        summary:
          'Say that whoever asks works at a board, and at which of its charts; to be said again before 50 s are over',
        stores: false,
        body: HereInput,
        answers: { 204: null },
      },
      async (c, { body }) => {
        const person = await routes.access.asker(c);
        if (person) {
          const { id, name } = person;
          await authors.say('here', { board: c.req.param('id')!, ...body, person: id, name });
        }
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/boards/:id/authors/gone',
        needs: { board: 'edit' },
        summary: 'Say that whoever asks has left a board',
        stores: false,
        body: GoneInput,
        answers: { 204: null },
      },
      async (c, { body }) => {
        const person = await routes.access.asker(c);
        if (person) {
          const { id, name } = person;
          await authors.say('gone', { board: c.req.param('id')!, ...body, person: id, name, chart: null });
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
        answers: { 200: 'text/event-stream' },
      },
      async (c) => {
        const board = c.req.param('id')!;
        const person = (await routes.access.asker(c))?.id ?? '';
        await revisions.look();
        let revision: number | undefined;
        let others = '[]';
        return toldEvents(c, {
          follow: (wake) => {
            const ends = [revisions.follow(wake), authors.follow(wake)];
            return () => {
              for (const end of ends) end();
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
            const there = JSON.stringify(authors.others(board, person));
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
