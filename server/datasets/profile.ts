import type { FieldProfile } from '@sorvik/core/data/dataset';
import { isTemporal } from '@sorvik/core/data/values';
import { and, eq } from 'drizzle-orm';
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
  const next = async (): Promise<void> => {
    const field = waiting.shift();
    if (field === undefined) return;
    const profile = await described(source, stored, field);
    // Nobody changes the rows between this look at their version and the keeping of what they were.
    await reading(database, stored.id, async ({ dataset }) => {
      if (dataset.version !== source.version) throw new OtherVersion(dataset.version);
      const { shaped, places, rows } = dataset;
      await database.db
        .update(fields)
        .set({ profile, profiled: { shaped, places, rows } })
        .where(and(eq(fields.dataset, stored.id), eq(fields.key, field.key)));
    });
    return next();
  };
  await Promise.all([next(), next(), next()]);
}

/** Rows may change while they are looked at; where they do so again and again, so many looks are enough. */
const mostLooks = 3;

/** Computes the profiles that are lacking, and begins again where rows change meanwhile: up to the most looks. */
async function lookUntilStill(sources: Sources, stored: StoredDataset): Promise<void> {
  const { db } = sources.database;
  let dataset = stored;
  for (let looks = 1; ; looks++)
    try {
      const waiting = (await fieldsOf(db, dataset.id)).filter(lacksProfile(dataset));
      if (waiting.length) await keepProfiles(sources, dataset, waiting);
      return;
    } catch (error) {
      if (!(error instanceof OtherVersion)) throw error;
      if (looks === mostLooks) return;
      dataset = await findDataset(db, stored.id);
    }
}

/**
 * Computes and keeps the profiles that a dataset's fields still lack; asked twice at once, it is done once. Where rows come
 * all the time it leaves them as they were a moment ago: whoever hears of the last of these rows asks once more.
 */
export async function ensureProfiles(sources: Sources, stored: StoredDataset): Promise<void> {
  if (!(await fieldsOf(sources.database.db, stored.id)).some(lacksProfile(stored))) return;
  const key = `${stored.id} ${stored.version}`;
  const running = underWay.get(key) ?? lookUntilStill(sources, stored).finally(() => underWay.delete(key));
  underWay.set(key, running);
  return running;
}
