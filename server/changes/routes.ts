import { Transform } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsOptional, IsString, MaxLength } from 'class-validator';
import type { Database } from '../db/client';
import { asList } from '../http/as-list';
import type { Routes } from '../http/routes';
import { toldEvents } from '../http/told-events';
import { Numbered } from './numbered';

class ChangesQuery {
  /** The datasets that are followed. */
  @Transform(asList)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(100)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  dataset!: string[];

  /** The link that lets whoever has it see them: browsers cannot name one in a header here. */
  @IsOptional()
  @IsString()
  @MaxLength(100)
  link?: string;
}

/** Tells pages of what changes while they are open. */
export function addChangeRoutes(routes: Routes, database: Database): void {
  const versions = new Numbered(database, 'datasets');
  routes.add(
    {
      method: 'get',
      path: '/api/changes',
      needs: 'visitor',
      summary: 'The versions of some datasets, now and whenever one changes, as server-sent events',
      query: ChangesQuery,
      answers: { 200: 'text/event-stream' },
    },
    async (c, { query }) => {
      let followed = await routes.access.followed(c, query.dataset);
      const told = new Map<string, number | undefined>();
      await versions.look();
      return toldEvents(c, {
        follow: (wake) => versions.follow(wake),
        mayHear: async () => {
          const now = await routes.access.followed(c, query.dataset);
          const same = now.length === followed.length;
          followed = now;
          return same;
        },
        news: () => {
          const changed = followed.filter((id) => !told.has(id) || versions.of(id) !== told.get(id));
          if (!changed.length) return [];
          for (const id of changed) told.set(id, versions.of(id));
          const found = changed.map((id) => [id, versions.of(id) ?? null]);
          return [{ event: 'datasets', data: JSON.stringify(Object.fromEntries(found)) }];
        },
      });
    },
  );
}
