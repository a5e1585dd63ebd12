import { and, desc, eq, ilike, lt, or, type SQL } from 'drizzle-orm';
import type { Context } from 'hono';
import type { Database } from '../db/client';
import { audit } from '../db/schema';
import type { Person } from '../people/sessions';
import { asking } from './asking';
import type { Action } from './needs';

export interface Noted {
  action: Action;
  thing?: string;
  /** Never secrets, never rows. */
  detail?: Record<string, unknown>;
  /** Who did it, where that is not whoever asks. */
  by?: Pick<Person, 'id' | 'name'> | null;
}

export interface AuditFilter {
  person?: string | undefined;
  action?: string | undefined;
  text?: string | undefined;
  /** Only what is older than this entry. */
  before?: number | undefined;
}

/** What was done to rights and with them: who, what, when, from where. It is only ever added to. */
export class Audit {
  constructor(
    private readonly database: Database,
    private readonly addressOf: (c: Context) => string,
    /** Alone, nobody asks who did what. */
    private readonly kept: boolean,
  ) {}

  async note(
    c: Context,
    { action, thing, detail = {}, by = asking.getStore()?.person ?? null }: Noted,
  ): Promise<void> {
    if (!this.kept) return;
    await this.database.db.insert(audit).values({
      person: by?.id ?? null,
      name: by?.name ?? null,
      action,
      thing: thing ?? null,
      detail,
      address: this.addressOf(c),
    });
  }

  /** Entries, newest first. */
  list({ person, action, text, before }: AuditFilter, most: number) {
    const conditions: (SQL | undefined)[] = [
      person === undefined ? undefined : eq(audit.person, person),
      action === undefined ? undefined : eq(audit.action, action),
      before === undefined ? undefined : lt(audit.id, before),
      text === undefined ? undefined : or(ilike(audit.thing, like(text)), ilike(audit.name, like(text))),
    ];
    return this.database.db
      .select()
      .from(audit)
      .where(and(...conditions))
      .orderBy(desc(audit.id))
      .limit(most);
  }
}

/** A text anywhere in another one, for `LIKE`. */
const like = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`;
