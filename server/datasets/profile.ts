import { setTimeout } from 'node:timers/promises';
import type { FieldProfile } from '@sorvik/core/data/dataset';
import { isTemporal } from '@sorvik/core/data/values';
import { and, eq } from 'drizzle-orm';
import { atOnce } from '../db/client';
import { fields } from '../db/schema';
import { OtherVersion, type Source } from '../sources/source';
import type { Sources } from '../sources/sources';
import { reading } from './locked';
import { type Field, fieldsOf, findDataset, isOf, type StoredDataset } from './store';

/** Whether a field has no profile of the rows there are, or one of before dates had grains. */
const lacksProfile =
  (dataset: StoredDataset) =>
  ({ profile, profiled, type }: Field) =>
    !profile || !isOf(dataset, profiled) || (isTemporal(type) && profile.grain === undefined);

/** A field as it is now: of one that rows have only been added to, what was known before is gone on from. */
function described(source: Source, dataset: StoredDataset, field: Field): Promise<FieldProfile> {
  const { profile, profiled } = field;
  const onlyMore =
    profile &&
    profiled?.shaped === dataset.shaped &&
    dataset.rows - profiled.rows === dataset.places - profiled.places;
  return onlyMore && source.describeMore
    ? source.describeMore(field, { profile, places: profiled.places })
    : source.describe(field);
}

/** The profiles of so few fields are computed sooner than a copy is made. */
const fewFields = 3;

const underWay = new Map<string, Promise<void>>();

async function keepProfiles(sources: Sources, stored: StoredDataset, waiting: Field[]): Promise<void> {
  const { database } = sources;
  const source = await sources.slowly(stored, waiting.length > fewFields);
  const found: [key: string, profile: FieldProfile][] = [];
  const next = async (): Promise<void> => {
    const field = waiting.shift();
    if (field === undefined) return;
    found.push([field.key, await described(source, stored, field)]);
    return next();
  };
  await Promise.all([next(), next(), next()]);
  // Nobody changes the rows between this look at their version and the keeping of what they were. All at once: each keeping is a
  // change, after which whatever was answered is asked anew.
  await reading(database, stored.id, async ({ dataset }) => {
    if (dataset.version !== source.version) throw new OtherVersion(dataset.version);
    const { shaped, places, rows } = dataset;
    await atOnce(database.db, async (tx) => {
      for (const [key, profile] of found)
        await tx
          .update(fields)
          .set({ profile, profiled: { shaped, places, rows } })
          .where(and(eq(fields.dataset, stored.id), eq(fields.key, key)));
    });
  });
}

/** Rows may change while they are looked at; where they do so again and again, so many looks are enough. */
const mostLooks = 3;

/** Looks at the fields that have no profile of the rows there are, as often as it takes to see one version, up to the most. */
async function lookUntilStill(sources: Sources, id: string): Promise<void> {
  const { db } = sources.database;
  for (let looks = 1; ; looks++)
    try {
      const dataset = await findDataset(db, id);
      const waiting = (await fieldsOf(db, id)).filter(lacksProfile(dataset));
      if (waiting.length) await keepProfiles(sources, dataset, waiting);
      return;
    } catch (error) {
      if (!(error instanceof OtherVersion)) throw error;
      if (looks === mostLooks) return;
    }
}

/** What looks at a dataset, now or after a pause; asked by several at once, it is done once. */
function looking(sources: Sources, id: string, pause = 0): Promise<void> {
  const known = underWay.get(id);
  if (known) return known;
  const running = setTimeout(pause)
    .then(() => lookUntilStill(sources, id))
    .finally(() => {
      underWay.delete(id);
      // What was answered meanwhile is not to be kept, whatever came of this.
      sources.database.changes.tell('fields');
    });
  underWay.set(id, running);
  return running;
}

/** So long whoever asks waits for profiles where those of a moment ago are there, ms. */
const patience = 100;

/** Of more rows than this, nobody waits: it is looked at after what charts ask for when rows come. */
const manyRows = 200_000;
/** So long after, ms: the more rows, the longer they keep the machine busy. */
const pauseOf = (rows: number) => Math.min(2000, Math.max(300, rows / 8000));

/**
 * Computes and keeps the profiles that a dataset's fields still lack. Where there are some of before the last rows came or went,
 * they have to do after a moment; it goes on, and whoever asks again gets those of now.
 */
export async function ensureProfiles(sources: Sources, { id }: Pick<StoredDataset, 'id'>): Promise<void> {
  const { db } = sources.database;
  const over = new AbortController();
  const late = setTimeout(patience, 'late', { signal: over.signal }).catch(() => 'over');
  try {
    for (let looks = 0; looks < mostLooks; looks++) {
      const dataset = await findDataset(db, id);
      const waiting = (await fieldsOf(db, id)).filter(lacksProfile(dataset));
      if (!waiting.length) return;
      const { shaped, rows } = dataset;
      const hasRecent = waiting.every(({ profile, profiled }) => profile && profiled?.shaped === shaped);
      const many = hasRecent && rows > manyRows;
      const look = looking(sources, id, many ? pauseOf(rows) : 0);
      if (!hasRecent) {
        await look;
        continue;
      }
      if (!many && (await Promise.race([look, late])) !== 'late') continue;
      // It goes on; whoever asks next hears of it where it fails.
      look.catch(() => {});
      return;
    }
  } finally {
    over.abort();
  }
}
