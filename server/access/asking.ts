import { AsyncLocalStorage } from 'node:async_hooks';
import type { Db } from '../db/client';
import { rights } from '../db/schema';
import type { Person } from '../people/sessions';
import type { Thing } from './needs';

/** Who asks; nobody that is known where somebody is not signed in. */
export interface Asker {
  person: Person | null;
}

/** Who asks for what is being done now, also where it goes on after the answer; nothing where there is no team. */
export const asking = new AsyncLocalStorage<Asker>();

/** Whoever asks for what is kept now owns it. */
export async function ownedByAsker(db: Db, kind: Thing, thing: string): Promise<void> {
  const person = asking.getStore()?.person;
  if (person) await db.insert(rights).values({ kind, thing, grantee: person.id, role: 'own' });
}
