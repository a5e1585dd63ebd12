import type {
  ConnectionView,
  DataVersionKind,
  ImportSource,
  RefreshMode,
} from '@sorvik/core/board/api-types';
import type { Board } from '@sorvik/core/board/board';
import type { FieldProfile, Lookup } from '@sorvik/core/data/dataset';
import type { FieldType } from '@sorvik/core/data/values';
import {
  bigint,
  bigserial,
  boolean,
  index,
  integer,
  jsonb,
  pgSchema,
  primaryKey,
  serial,
  text,
  timestamp,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { Role, Thing } from '../access/needs';

/** A table or a view of another database. */
export interface Relation {
  schema: string;
  name: string;
  /** The columns that its rows are put in order by: those of its primary key. */
  order: string[];
}

/** A state of a dataset's rows: with the same places and as many rows, nothing came or went. */
export interface Profiled {
  shaped: number;
  places: number;
  rows: number;
}

/** A column of such a table. */
export interface RemoteColumn {
  name: string;
  /** Its type there, as it is written. */
  type: string;
  /** Some of its values are outside what a chart can show, and are left out. */
  guarded?: true;
}

/** The application's own tables. Rows of datasets are real typed tables in the schema `data`. */
export const sorvik = pgSchema('sorvik');

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'string' });

/** Other databases, of which tables are read in place. */
export const connections = sorvik.table('connections', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  host: text('host').notNull(),
  port: integer('port').notNull(),
  database: text('database').notNull(),
  user: text('user_name').notNull(),
  /** Sealed with a key that is not in this database. */
  password: text('password').notNull(),
  tls: text('tls').$type<ConnectionView['tls']>().notNull(),
  /** The certificate that vouches for that of the server, as PEM, where none of the usual ones does. */
  authority: text('authority'),
  /** So long a statement may take. */
  seconds: integer('seconds').notNull(),
  /** So many connections are open at a time. */
  most: integer('most').notNull(),
  createdAt: at('created_at').notNull().defaultNow(),
});

export const datasets = sorvik.table('datasets', {
  id: text('id').primaryKey(),
  /** Names the table `data.d_<number>`. */
  number: serial('number').notNull(),
  name: text('name').notNull(),
  /** Begins at the time of the import in ms, so that no two datasets ever share an address with a version. */
  version: bigint('version', { mode: 'number' }).notNull(),
  rows: bigint('rows', { mode: 'number' }).notNull(),
  rejected: bigint('rejected', { mode: 'number' }).notNull().default(0),
  /** The import that it was made by. */
  importId: text('import_id'),
  /** The version in which its fields or its table last became others: since then rows came and went, and no more. */
  shaped: bigint('shaped', { mode: 'number' }).notNull().default(0),
  /** Places of rows that were given out: the next row gets this one. Rows that went leave theirs empty. */
  places: bigint('places', { mode: 'number' }).notNull().default(0),
  /** What the import found out and did: encoding, separator, notes. */
  source: jsonb('source').$type<ImportSource>().notNull(),
  /** For a table in place: where it is, and what it is there. */
  connection: text('connection').references(() => connections.id),
  relation: jsonb('relation').$type<Relation>(),
  /** Which rows those see who do not own it, as a formula; null where it is all of them. */
  rowRule: text('row_rule'),
  createdAt: at('created_at').notNull().defaultNow(),
  deletedAt: at('deleted_at'),
});

export const fields = sorvik.table(
  'fields',
  {
    dataset: text('dataset')
      .notNull()
      .references(() => datasets.id, { onDelete: 'cascade' }),
    key: text('key').notNull(),
    name: text('name').notNull(),
    type: text('type').$type<FieldType>().notNull(),
    place: integer('place').notNull(),
    /** A standard SQL expression of other fields, for a field that is computed from them. */
    formula: text('formula'),
    /** Where its values are looked up, and the version of that dataset in which they were. */
    lookup: jsonb('lookup').$type<Lookup & { version: number }>(),
    /** For a table in place: the column that it is there. */
    column: jsonb('column').$type<RemoteColumn>(),
    profile: jsonb('profile').$type<FieldProfile | null>(),
    /** Which state of the rows the profile is of. */
    profiled: jsonb('profiled').$type<Profiled | null>(),
  },
  (table) => [primaryKey({ columns: [table.dataset, table.key] })],
);

/** The states that the rows of a dataset have been in, and can be brought back to. */
export const datasetVersions = sorvik.table(
  'dataset_versions',
  {
    dataset: text('dataset')
      .notNull()
      .references(() => datasets.id, { onDelete: 'cascade' }),
    /** Counts them, from 1. */
    seq: integer('seq').notNull(),
    at: at('at').notNull().defaultNow(),
    /** Rows that are pushed one batch after the other are one version for a while: since when. */
    began: at('began').notNull().defaultNow(),
    kind: text('kind').$type<DataVersionKind>().notNull(),
    /** Names the table that its rows are in. */
    number: integer('number').notNull(),
    /** Rows of that table with places from here on came later. */
    places: bigint('places', { mode: 'number' }).notNull(),
    rows: bigint('rows', { mode: 'number' }).notNull(),
    rowsIn: bigint('rows_in', { mode: 'number' }).notNull().default(0),
    rowsOut: bigint('rows_out', { mode: 'number' }).notNull().default(0),
    rejected: bigint('rejected', { mode: 'number' }).notNull().default(0),
    source: jsonb('source').$type<ImportSource>().notNull(),
    /** The fields as they were when another table took the place of this one. */
    fields: jsonb('fields').$type<(typeof fields.$inferSelect)[]>(),
  },
  (table) => [primaryKey({ columns: [table.dataset, table.seq] })],
);

/** How a dataset is refreshed by itself, and how that went. */
export const refreshSchedules = sorvik.table('refresh_schedules', {
  dataset: text('dataset')
    .primaryKey()
    .references(() => datasets.id, { onDelete: 'cascade' }),
  address: text('address').notNull(),
  mode: text('mode').$type<RefreshMode>().notNull(),
  by: text('by'),
  /** Who has set it, where people sign in: it goes on as long as they may change the rows. */
  setBy: text('set_by'),
  /** When, as a cron expression in the time zone. */
  cadence: text('cadence').notNull(),
  zone: text('zone').notNull(),
  /** What the address said of what it gave last: it is not fetched again while that is so. */
  etag: text('etag'),
  modified: text('modified'),
  digest: text('digest'),
  nextAt: at('next_at'),
  triedAt: at('tried_at'),
  /** When it last went well, and when that last changed something. */
  doneAt: at('done_at'),
  changedAt: at('changed_at'),
  /** Why the last try failed. */
  problem: text('problem'),
  failures: integer('failures').notNull().default(0),
});

/** What lets somebody push rows to one dataset. Of the token itself only a hash is kept. */
export const pushTokens = sorvik.table('push_tokens', {
  id: text('id').primaryKey(),
  dataset: text('dataset')
    .notNull()
    .references(() => datasets.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  hash: text('hash').notNull().unique(),
  createdAt: at('created_at').notNull().defaultNow(),
  usedAt: at('used_at'),
});

/** Rows of a file that did not fit, as they stood there. */
export const importRejects = sorvik.table(
  'import_rejects',
  {
    dataset: text('dataset')
      .notNull()
      .references(() => datasets.id, { onDelete: 'cascade' }),
    line: bigint('line', { mode: 'number' }).notNull(),
    column: text('column').notNull(),
    reason: text('reason').notNull(),
    cells: jsonb('cells').$type<string[]>().notNull(),
  },
  (table) => [index('import_rejects_by_line').on(table.dataset, table.line)],
);

export const boards = sorvik.table('boards', {
  id: text('id').primaryKey(),
  revision: integer('revision').notNull().default(1),
  document: jsonb('document').$type<Board>().notNull(),
  createdAt: at('created_at').notNull().defaultNow(),
  updatedAt: at('updated_at').notNull().defaultNow(),
  deletedAt: at('deleted_at'),
  /** The revision that viewers see; while there is none they see the draft. */
  published: integer('published'),
  publishedAt: at('published_at'),
  /** Who has published it, where people sign in: viewers reach what that person may see. */
  publishedBy: text('published_by'),
  /** The board of which this is a copy to try something on, and the revision that was copied. */
  scratchOf: text('scratch_of'),
  scratchFrom: integer('scratch_from'),
});

/** Every document a board has ever been, so that nothing that was saved can be lost. */
export const boardVersions = sorvik.table(
  'board_versions',
  {
    board: text('board')
      .notNull()
      .references(() => boards.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    document: jsonb('document').$type<Board>().notNull(),
    savedAt: at('saved_at').notNull().defaultNow(),
    /** What the author calls it. */
    name: text('name'),
    /** Names the save that made it, so that it is not done twice. */
    saveKey: text('save_key'),
  },
  (table) => [
    primaryKey({ columns: [table.board, table.revision] }),
    uniqueIndex('board_versions_by_key').on(table.board, table.saveKey),
  ],
);

/** People who sign in, where the server is for a team. */
export const people = sorvik.table('people', {
  id: text('id').primaryKey(),
  email: text('email').notNull(),
  name: text('name').notNull(),
  /** As argon2id; none until its person has chosen one. */
  password: text('password'),
  /** Owners invite people, and own every board and dataset. */
  owner: boolean('owner').notNull().default(false),
  /** May not sign in any more; boards stay. */
  off: boolean('off').notNull().default(false),
  createdAt: at('created_at').notNull().defaultNow(),
});

/** People who are given rights together. */
export const groups = sorvik.table('groups', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** Who is in it is said by a provider of identities, each time somebody signs in there. */
  provided: boolean('provided').notNull().default(false),
  createdAt: at('created_at').notNull().defaultNow(),
});

export const members = sorvik.table(
  'members',
  {
    group: text('group')
      .notNull()
      .references(() => groups.id, { onDelete: 'cascade' }),
    person: text('person')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
  },
  (table) => [primaryKey({ columns: [table.group, table.person] })],
);

/** Who people are for providers of identities. */
export const identities = sorvik.table(
  'identities',
  {
    issuer: text('issuer').notNull(),
    subject: text('subject').notNull(),
    person: text('person')
      .notNull()
      .references(() => people.id, { onDelete: 'cascade' }),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.issuer, table.subject] })],
);

/** Browsers in which somebody is signed in. Of what their cookie holds only a hash is kept. */
export const sessions = sorvik.table('sessions', {
  id: text('id').primaryKey(),
  hash: text('hash').notNull().unique(),
  person: text('person')
    .notNull()
    .references(() => people.id, { onDelete: 'cascade' }),
  createdAt: at('created_at').notNull().defaultNow(),
  usedAt: at('used_at').notNull().defaultNow(),
  agent: text('agent').notNull(),
  address: text('address').notNull(),
});

/** What lets programs act for a person. Of the token itself only a hash is kept. */
export const personTokens = sorvik.table('person_tokens', {
  id: text('id').primaryKey(),
  hash: text('hash').notNull().unique(),
  person: text('person')
    .notNull()
    .references(() => people.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  scope: text('scope').$type<'read' | 'push' | 'edit'>().notNull(),
  createdAt: at('created_at').notNull().defaultNow(),
  usedAt: at('used_at'),
  endsAt: at('ends_at').notNull(),
});

/** Links to published boards. Of what whoever has one shows, and of their passwords, only hashes are kept. */
export const links = sorvik.table('links', {
  id: text('id').primaryKey(),
  hash: text('hash').notNull().unique(),
  board: text('board')
    .notNull()
    .references(() => boards.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  /** Where levers stand, as the address of a show says it. */
  positions: text('positions').notNull().default(''),
  /** The levers that stay there. */
  fixed: jsonb('fixed').$type<string[]>().notNull().default([]),
  /** The origins whose pages may show what it shows. */
  origins: jsonb('origins').$type<string[]>().notNull().default([]),
  password: text('password'),
  madeBy: text('made_by'),
  createdAt: at('created_at').notNull().defaultNow(),
  /** null for one that does not end. */
  endsAt: at('ends_at'),
  uses: integer('uses').notNull().default(0),
  usedAt: at('used_at'),
});

/** Browsers in which a link was followed. */
export const visits = sorvik.table('visits', {
  hash: text('hash').primaryKey(),
  link: text('link')
    .notNull()
    .references(() => links.id, { onDelete: 'cascade' }),
  createdAt: at('created_at').notNull().defaultNow(),
});

/** Links by which somebody chooses a password, for the first time or again; each works once. */
export const invitations = sorvik.table('invitations', {
  hash: text('hash').primaryKey(),
  /** Who chooses a new password; left out, whoever follows it says who they are. */
  person: text('person').references(() => people.id, { onDelete: 'cascade' }),
  owner: boolean('owner').notNull().default(false),
  madeBy: text('made_by'),
  createdAt: at('created_at').notNull().defaultNow(),
  endsAt: at('ends_at').notNull(),
});

/** What somebody may do with a board or a dataset. */
export const rights = sorvik.table(
  'rights',
  {
    kind: text('kind').$type<Thing>().notNull(),
    thing: text('thing').notNull(),
    /** The id of a person, `group/` and the id of a group, or `everybody` who is signed in. */
    grantee: text('grantee').notNull(),
    role: text('role').$type<Role>().notNull(),
    madeAt: at('made_at').notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.kind, table.thing, table.grantee] })],
);

/** What was done to rights and with them: it is only ever added to. */
export const audit = sorvik.table('audit', {
  id: bigserial('id', { mode: 'number' }).primaryKey(),
  at: at('at').notNull().defaultNow(),
  person: text('person'),
  /** What the person was called then. */
  name: text('name'),
  action: text('action').notNull(),
  thing: text('thing'),
  detail: jsonb('detail').$type<Record<string, unknown>>().notNull().default({}),
  address: text('address').notNull(),
});
