import { IsIn, IsInt, IsNotEmpty, IsString, Max, MaxLength, Min } from 'class-validator';
import type { Access } from '../access/access';
import type { Audit } from '../access/audit';
import { HttpProblem } from '../http/problem';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import { tell } from '../tell';
import { type PersonTokens, type Scope, scopes } from './person-tokens';

class PersonTokenInput {
  /** What it is for. */
  @IsString()
  @IsNotEmpty()
  @MaxLength(100)
  name!: string;

  @IsIn(scopes)
  scope!: Scope;

  @IsInt()
  @Min(1)
  @Max(366)
  days!: number;
}

const path = '/api/me/tokens';

/** Tokens of one's own, by which programs act for one. */
export function addTokenRoutes(
  routes: Routes,
  { access, tokens, audit }: { access: Access; tokens: PersonTokens; audit: Audit },
): void {
  routes
    .add(
      {
        method: 'get',
        path,
        needs: 'person',
        summary: 'The tokens by which programs act for one',
        answers: { 200: listOf('PersonToken') },
      },
      async (c) => {
        const signed = await access.signed(c);
        const found = signed ? await tokens.list(signed.person.id) : [];
        return c.json(found, 200, { 'cache-control': 'no-store' });
      },
    )
    .add(
      {
        method: 'post',
        path,
        needs: 'person',
        summary: 'Make a token; it is told this once',
        body: PersonTokenInput,
        answers: { 201: ref('NewPersonToken') },
      },
      async (c, { body }) => {
        const { id } = await access.person(c);
        const made = await tokens.make(id, body);
        await audit.note(c, { action: 'token-made', detail: { name: made.name, scope: made.scope } });
        return c.json(made, 201);
      },
    )
    .add(
      {
        method: 'delete',
        path: `${path}/:id`,
        needs: 'person',
        summary: 'Withdraw a token',
        answers: { 204: null },
      },
      async (c) => {
        const { id } = await access.person(c);
        const name = await tokens.withdraw(id, c.req.param('id')!);
        if (name === null) throw new HttpProblem(404, 'not-found', tell('people.noToken'));
        await audit.note(c, { action: 'token-withdrawn', detail: { name } });
        return c.body(null, 204);
      },
    );
}
