import {
  ArrayMaxSize,
  IsArray,
  IsInt,
  IsNotEmpty,
  IsOptional,
  IsString,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateIf,
} from 'class-validator';
import type { Access } from '../access/access';
import type { Audit } from '../access/audit';
import { IsOrigin } from '../http/origin';
import { keepInBrowser } from '../http/own-cookie';
import { HttpProblem } from '../http/problem';
import type { Routes } from '../http/routes';
import { listOf, ref } from '../http/schemas';
import type { Tries } from '../people/tries';
import { tell } from '../tell';
import { type Links, visitDays } from './links';

const longestAddress = 8000;
const longestPassword = 200;

class LinkInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(100)
  name!: string;

  /** Where levers stand, as the address of a show says it. */
  @IsOptional()
  @IsString()
  @MaxLength(longestAddress)
  positions?: string;

  /** Levers that stay there, by their ids. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  @MaxLength(100, { each: true })
  fixed?: string[];

  /** The origins whose pages may show what it shows: `https://pages.example`. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(20)
  @IsOrigin({ each: true })
  origins?: string[];

  /** null for a link that does not end. */
  @ValidateIf((_, value) => value !== null)
  @IsInt()
  @Min(1)
  @Max(3650)
  days!: number | null;

  @IsOptional()
  @IsString()
  @MinLength(6)
  @MaxLength(longestPassword)
  password?: string;
}

class FollowInput {
  @IsString()
  @IsNotEmpty()
  @MaxLength(100)
  token!: string;

  @IsOptional()
  @IsString()
  @MaxLength(longestPassword)
  password?: string;
}

export interface LinkParts {
  access: Access;
  links: Links;
  audit: Audit;
  tries: Tries;
  addressOf(c: Parameters<Access['person']>[0]): string;
  /** Pages come over TLS: a cookie never goes any other way. */
  secure: boolean;
}

/** Links by which whoever has them sees one published board. */
export function addLinkRoutes(routes: Routes, parts: LinkParts): void {
  const { access, links, audit, tries, addressOf, secure } = parts;
  const needTeam = () => {
    if (!access.team) throw new HttpProblem(404, 'not-found', tell('people.alone'));
  };
  routes
    .add(
      {
        method: 'get',
        path: '/api/boards/:id/links',
        needs: { board: 'own' },
        summary: 'The links by which others see a board',
        answers: { 200: listOf('BoardLink') },
      },
      async (c) => c.json(await links.list(c.req.param('id')!), 200, { 'cache-control': 'no-store' }),
    )
    .add(
      {
        method: 'post',
        path: '/api/boards/:id/links',
        needs: { board: 'own' },
        summary: 'Make a link by which whoever has it sees the published board',
        body: LinkInput,
        answers: { 201: ref('MadeLink') },
      },
      async (c, { body }) => {
        needTeam();
        const board = c.req.param('id')!;
        const { id } = await access.person(c);
        const { name, positions = '', fixed = [], origins = [], days, password = null } = body;
        const { token, link } = await links.make(
          board,
          { name, positions, fixed, origins, days, password },
          id,
        );
        await audit.note(c, {
          action: 'link-made',
          thing: `board/${board}`,
          detail: { name: link.name, endsAt: link.endsAt, locked: link.locked },
        });
        return c.json({ path: `/link#${token}`, link }, 201);
      },
    )
    .add(
      {
        method: 'delete',
        path: '/api/boards/:id/links/:link',
        needs: { board: 'own' },
        summary: 'Withdraw a link: whoever has come by it sees nothing any more',
        answers: { 204: null },
      },
      async (c) => {
        const board = c.req.param('id')!;
        const name = await links.withdraw(board, c.req.param('link')!);
        if (name === null) throw new HttpProblem(404, 'not-found', tell('links.noSuch'));
        await audit.note(c, { action: 'link-withdrawn', thing: `board/${board}`, detail: { name } });
        return c.body(null, 204);
      },
    )
    .add(
      {
        method: 'post',
        path: '/api/links/follow',
        needs: 'nothing',
        summary: 'Follow a link; the answer sets a cookie, or says that a password is wanted',
        stores: false,
        body: FollowInput,
        answers: { 200: ref('Followed') },
      },
      async (c, { body }) => {
        needTeam();
        const found = await links.find(body.token);
        if (found.password !== null) {
          if (body.password === undefined) return c.json({ locked: true });
          const [what, address] = [`link/${found.id}`, addressOf(c)];
          await tries.before(what, address);
          if (!(await links.fits(found, body.password))) {
            await tries.wrong(what, address);
            await audit.note(c, {
              action: 'link-refused',
              thing: `board/${found.board}`,
              detail: { name: found.name },
            });
            throw new HttpProblem(401, 'wrong-password', tell('links.wrongPassword'));
          }
          await tries.right(what, address);
        }
        const token = await links.enter(found.id);
        keepInBrowser(c, access.visitCookie(found.id), token, { secure, seconds: visitDays * 86_400 });
        await audit.note(c, {
          action: 'link-followed',
          thing: `board/${found.board}`,
          detail: { name: found.name },
        });
        return c.json({ locked: false, board: found.board, positions: found.positions });
      },
    );
}
