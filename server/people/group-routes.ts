import { ArrayMaxSize, IsArray, IsNotEmpty, IsString, MaxLength } from 'class-validator';
import type { Context } from 'hono';
import type { Audit } from '../access/audit';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import type { Group, Groups } from './groups';

class GroupNameInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(100)
  name!: string;
}

class MembersInput {
  /** Ids. */
  @IsArray()
  @ArrayMaxSize(10_000)
  @IsString({ each: true })
  @MaxLength(60, { each: true })
  people!: string[];
}

const noStore = { 'cache-control': 'no-store' };

/** Groups, to which rights are given as to people. */
export function addGroupRoutes(routes: Routes, { groups, audit }: { groups: Groups; audit: Audit }): void {
  const changed = async (c: Context, group: Group, detail: Record<string, unknown>) =>
    audit.note(c, {
      action: 'group-changed',
      thing: `group/${group.id}`,
      detail: { of: group.name, ...detail },
    });
  routes
    .add(
      {
        method: 'get',
        path: '/api/groups',
        needs: 'person',
        summary: 'Groups of people',
        answers: { 200: listOf('Group') },
      },
      async (c) => c.json(await groups.list(), 200, noStore),
    )
    .add(
      {
        method: 'post',
        path: '/api/groups',
        needs: 'owner',
        summary: 'Make a group',
        body: GroupNameInput,
        answers: { 201: ref('Group') },
      },
      async (c, { body }) => {
        const made = await groups.make(body.name);
        await changed(c, made, { made: true });
        return c.json(made, 201);
      },
    )
    .add(
      {
        method: 'patch',
        path: '/api/groups/:id',
        needs: 'owner',
        summary: 'Rename a group; rules that name it by its name have to follow',
        body: GroupNameInput,
        answers: { 200: ref('Group') },
      },
      async (c, { body }) => {
        const before = await groups.find(c.req.param('id')!);
        const group = await groups.rename(before.id, body.name);
        await changed(c, group, { was: before.name });
        return c.json(group);
      },
    )
    .add(
      {
        method: 'put',
        path: '/api/groups/:id/people',
        needs: 'owner',
        summary: 'Say who is in a group',
        body: MembersInput,
        answers: { 200: ref('Group') },
      },
      async (c, { body }) => {
        const before = await groups.find(c.req.param('id')!);
        const group = await groups.setPeople(before.id, body.people);
        const [came, went] = await Promise.all([
          groups.namesOf(group.people.filter((id) => !before.people.includes(id))),
          groups.namesOf(before.people.filter((id) => !group.people.includes(id))),
        ]);
        await changed(c, group, { ...(came.length ? { came } : {}), ...(went.length ? { went } : {}) });
        return c.json(group);
      },
    )
    .add(
      {
        method: 'delete',
        path: '/api/groups/:id',
        needs: 'owner',
        summary: 'Remove a group, with the rights that were given to it',
        answers: { 204: null },
      },
      async (c) => {
        await changed(c, await groups.remove(c.req.param('id')!), { removed: true });
        return c.body(null, 204);
      },
    );
}
