import { IsEmail, MaxLength } from 'class-validator';
import type { Context } from 'hono';
import type { Logger } from 'pino';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { Audit } from '../access/audit';
import { HttpProblem } from '../http/problem';
import type { Routes } from '../http/routes';
import { tell } from '../tell';
import type { Mail } from './mail';
import { linkDays, type People } from './people';

class ForgottenInput {
  @IsEmail({}, { message: () => tell('people.noEmail') })
  @MaxLength(254)
  email!: string;
}

const hour = 3600;
/** So many links an hour are mailed to one address, and asked for from one place. */
const most = { email: 3, place: 20 };

export interface ForgottenParts {
  mail: Mail | null;
  people: People;
  audit: Audit;
  log: Logger;
  /** Where people open Sorvik. */
  address: URL | null;
  addressOf(c: Context): string;
}

/** Links that are mailed to whoever has forgotten a password. */
export function addForgottenRoutes(
  routes: Routes,
  { mail, people, audit, log, address, addressOf }: ForgottenParts,
): void {
  const emails = new RateLimiterMemory({ points: most.email, duration: hour });
  const places = new RateLimiterMemory({ points: most.place, duration: hour });
  const send = async (c: Context, email: string) => {
    const person = await people.called(email);
    if (!person) return;
    const { token } = await people.invite({ person: person.id });
    await mail!.resetLink(person, new URL(`/invitation#${token}`, address!).href, linkDays);
    await audit.note(c, {
      action: 'reset-link-made',
      thing: `person/${person.id}`,
      detail: { mailed: true },
      by: null,
    });
  };
  routes.add(
    {
      method: 'post',
      path: '/api/sign-in/forgotten',
      needs: 'nothing',
      summary:
        'Mail a link to choose another password; the answer is the same whether anybody has the address',
      stores: false,
      body: ForgottenInput,
      answers: { 204: null },
    },
    async (c, { body }) => {
      if (!mail) throw new HttpProblem(404, 'not-found', tell('people.noMail'));
      const email = body.email.trim().toLowerCase();
      await places.consume(addressOf(c)).catch(() => {
        throw new HttpProblem(
          429,
          'too-many-tries',
          tell('people.tooManyMails'),
          {},
          { 'retry-after': String(hour) },
        );
      });
      // Whether there is somebody, and whether mail goes out, is not told by how long it takes.
      void emails
        .consume(email)
        .then(
          () => send(c, email),
          () => {},
        )
        .catch((error) => log.warn({ err: error }, 'mail could not be sent'));
      return c.body(null, 204);
    },
  );
}
