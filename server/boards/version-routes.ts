import { IsBoolean, IsInt, IsOptional, IsString, Max, MaxLength, Min } from 'class-validator';
import type { Context } from 'hono';
import { datasetInfos } from '../datasets/store';
import type { Database } from '../db/client';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { forViewers, mostRevisions, shown } from './answers';
import { findBoard, findVersion } from './store';
import { foldBack, listVersions, nameVersion, publish, scratchOf, shownBoard, unfold } from './versions';
import { asVisited } from './visited';

class VersionInput {
  @IsString()
  @MaxLength(200)
  name!: string;
}

class PublishInput {
  @IsInt()
  @Min(1)
  @Max(mostRevisions)
  revision!: number;
}

class FoldInput {
  /** Also where the board has been changed since the copy was made. */
  @IsOptional()
  @IsBoolean()
  anyway?: boolean;
}

class UnfoldInput extends PublishInput {
  /** The copy that was folded back. */
  @IsString()
  @MaxLength(80)
  scratch!: string;
}

/** The revision in an address; -1, which there is none of, where it is no number. */
const revisionIn = (c: Context): number => {
  const revision = Number(c.req.param('revision'));
  return Number.isInteger(revision) && revision <= mostRevisions ? revision : -1;
};

/** What boards have been, what viewers see of them, and copies to try something on. */
export function addVersionRoutes(routes: Routes, { db }: Database): void {
  const path = '/api/boards/:id';
  routes
    .add(
      {
        method: 'get',
        path: `${path}/versions`,
        needs: { board: 'edit' },
        summary: 'What a board has been, newest first, and in words what changed',
        answers: { 200: listOf('BoardVersion') },
      },
      async (c) => {
        const known = await routes.access.visible(c, 'dataset', await datasetInfos(db));
        return c.json(await listVersions(db, await findBoard(db, c.req.param('id')!), known));
      },
    )
    .add(
      {
        method: 'patch',
        path: `${path}/versions/:revision`,
        needs: { board: 'edit' },
        summary: 'Give a version a name',
        body: VersionInput,
        answers: { 204: null },
      },
      async (c, { body }) => {
        const { id } = await findBoard(db, c.req.param('id')!);
        await nameVersion(db, id, revisionIn(c), body.name.trim() || null);
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/shown`,
        needs: { board: 'shown' },
        summary: 'What viewers see of a board',
        answers: { 200: ref('ShownBoard') },
      },
      async (c) => {
        const found = await shownBoard(db, c.req.param('id')!);
        const shown = forViewers(found);
        const visit = routes.access.visit(c);
        return c.json(visit ? asVisited(shown, visit) : shown);
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/publish`,
        needs: { board: 'edit' },
        summary: 'Show viewers a revision from now on',
        noted: 'board-published',
        body: PublishInput,
        answers: { 200: ref('SavedBoard') },
      },
      async (c, { body }) => shown(c, await publish(db, c.req.param('id')!, body.revision)),
    )
    .add(
      {
        method: 'post',
        path: `${path}/scratch`,
        needs: { board: 'edit' },
        summary: 'Make a copy to try something on',
        answers: { 201: ref('SavedBoard') },
      },
      async (c) => shown(c, await scratchOf(db, c.req.param('id')!), 201),
    )
    .add(
      {
        method: 'post',
        path: `${path}/fold`,
        needs: { board: 'edit' },
        summary: 'Put what was tried on a copy onto the board it was made of',
        body: FoldInput,
        answers: { 200: ref('SavedBoard') },
      },
      async (c, { body }) => {
        const { id, scratchOf: home } = await findBoard(db, c.req.param('id')!);
        if (home !== null) await routes.access.also(c, 'board', home, 'edit');
        return shown(c, await foldBack(db, id, body.anyway ?? false));
      },
    )
    .add(
      {
        method: 'post',
        path: `${path}/unfold`,
        needs: { board: 'edit' },
        summary: 'Take back that a copy was folded back: `revision` is the one that this made',
        body: UnfoldInput,
        answers: { 200: ref('SavedBoard') },
      },
      async (c, { body }) => {
        await routes.access.also(c, 'board', body.scratch, 'edit');
        return shown(c, await unfold(db, c.req.param('id')!, body.scratch, body.revision));
      },
    )
    .add(
      {
        method: 'get',
        path: `${path}/versions/:revision`,
        needs: { board: 'edit' },
        summary: 'A board as it was',
        answers: { 200: ref('ShownBoard') },
      },
      async (c) => c.json(await findVersion(db, c.req.param('id')!, revisionIn(c))),
    );
}
