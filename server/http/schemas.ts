import type { JsonSchema } from './routes';

const text = { type: 'string' };
const count = { type: 'integer', minimum: 0 };
const orNull = (schema: JsonSchema) => ({ anyOf: [schema, { type: 'null' }] });
const time = { type: 'string' };
const list = (items: JsonSchema) => ({ type: 'array', items });
const object = (properties: Record<string, JsonSchema>, optional: string[] = []) => ({
  type: 'object',
  properties,
  required: Object.keys(properties).filter((name) => !optional.includes(name)),
});
export const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
export const listOf = (name: string) => list(ref(name));

const scalar = { type: ['string', 'number', 'boolean', 'null'] };
const typeName = { enum: ['integer', 'decimal', 'text', 'boolean', 'date', 'datetime'] };

const reach = list(object({ board: text, title: text, lines: list(text) }));

const remoteTable = { schema: text, name: text, kind: { enum: ['table', 'view'] }, rows: orNull(count) };

const personToken = {
  id: text,
  name: text,
  scope: { enum: ['read', 'push', 'edit'] },
  createdAt: time,
  usedAt: orNull(time),
  endsAt: time,
};

const person = { id: text, name: text, email: text };
const role = { enum: ['view', 'edit', 'own'] };

/** The answers of the API. */
export const schemas: Record<string, JsonSchema> = {
  Problem: object(
    {
      type: text,
      title: text,
      status: { type: 'integer' },
      detail: text,
      instance: text,
      errors: list(object({ pointer: text, message: text })),
    },
    ['instance', 'errors'],
  ),
  Me: object({ team: { type: 'boolean' }, provider: text, mails: { const: true }, person: ref('Person') }, [
    'provider',
    'mails',
    'person',
  ]),
  Provider: object({ address: text }),
  Person: object(
    {
      id: text,
      email: text,
      name: text,
      owner: { type: 'boolean' },
      off: { type: 'boolean' },
      createdAt: time,
    },
    ['off', 'createdAt'],
  ),
  Session: object({
    id: text,
    createdAt: time,
    usedAt: time,
    agent: text,
    address: text,
    here: { type: 'boolean' },
  }),
  Invitation: object({ known: { type: 'boolean' }, email: text, name: text, owner: { type: 'boolean' } }, [
    'email',
    'name',
    'owner',
  ]),
  Link: object({ path: text, endsAt: time }),
  PersonToken: object(personToken),
  NewPersonToken: object({ ...personToken, token: text }),
  BoardLink: object({
    id: text,
    name: text,
    positions: text,
    fixed: list(text),
    origins: list(text),
    locked: { type: 'boolean' },
    madeBy: orNull(text),
    createdAt: time,
    endsAt: orNull(time),
    uses: count,
    usedAt: orNull(time),
  }),
  MadeLink: object({ path: text, link: ref('BoardLink') }),
  Followed: object({ locked: { type: 'boolean' }, board: text, positions: text }, ['board', 'positions']),
  Group: object({ id: text, name: text, people: list(text) }),
  Right: object({
    grantee: text,
    role,
    name: orNull(text),
    email: orNull(text),
  }),
  WhoMay: object({
    people: list(
      object({
        ...person,
        role,
        by: list(
          object({ is: { enum: ['owner', 'person', 'group', 'everybody'] }, role, name: text }, [
            'role',
            'name',
          ]),
        ),
      }),
    ),
    data: list(
      object({ dataset: text, title: text, blind: list(object(person)), partly: list(object(person)) }),
    ),
  }),
  AuditEntry: object({
    id: count,
    at: time,
    person: orNull(text),
    name: orNull(text),
    action: text,
    thing: orNull(text),
    detail: { type: 'object' },
    address: text,
  }),
  Readiness: object({
    ready: { type: 'boolean' },
    database: { type: 'boolean' },
    changes: { type: 'boolean' },
  }),
  Health: object({ status: { enum: ['ok', 'degraded'] }, database: { enum: ['up', 'down'] } }),
  Field: object(
    {
      key: text,
      name: text,
      type: typeName,
      formula: text,
      lookup: object({ dataset: text, on: text, field: text, from: text }),
      profile: orNull(
        object({ count, distinct: count, missing: count, min: scalar, max: scalar, grain: text }, ['grain']),
      ),
    },
    ['profile', 'formula', 'lookup'],
  ),
  Connection: object({
    id: text,
    name: text,
    host: text,
    port: count,
    database: text,
    user: text,
    tls: { enum: ['usual', 'own', 'off'] },
    authority: orNull(text),
    seconds: count,
    most: count,
    datasets: list(object({ id: text, name: text })),
  }),
  RemoteTable: object(remoteTable),
  RemoteTableView: object({
    ...remoteTable,
    fields: list(object({ name: text, is: text, type: orNull(typeName) })),
    changeable: { type: 'boolean' },
  }),
  LookupPreview: object({
    rows: object({ matched: count, unmatched: count, empty: count }),
    unmatched: object({ count, examples: list(text) }),
    doubled: object({ count, examples: list(text) }),
  }),
  FieldUses: object({ fields: list(text), boards: list(object({ id: text, title: text })) }),
  Dataset: object(
    {
      id: text,
      name: text,
      version: count,
      rows: count,
      rejected: count,
      createdAt: time,
      source: object({ file: text, encoding: text, separator: text, notes: list(text), format: text }, [
        'format',
      ]),
      fields: listOf('Field'),
      boards: list(object({ id: text, title: text })),
      copy: object(
        { state: { enum: ['ready', 'waiting', 'failed', 'none', 'making'] }, share: { type: 'number' } },
        ['share'],
      ),
      data: object({ at: time, versions: count }),
      schedule: ref('Schedule'),
      inPlace: object({ connection: text, name: text, table: text }),
      behind: { const: true },
      restricted: { const: true },
    },
    ['restricted', 'behind', 'copy', 'data', 'schedule', 'inPlace'],
  ),
  RowRule: object({ rule: orNull(text) }),
  TriedRule: object({
    owns: { type: 'boolean' },
    rows: count,
    of: count,
    fields: list(text),
    sample: list(list(scalar)),
  }),
  DeletedBoard: object({ id: text, title: text, deletedAt: time }),
  DeletedDataset: object({ id: text, name: text, rows: count, deletedAt: time, bytes: count }),
  Rows: object({ offset: count, rows: list(list(scalar)) }),
  CubeSize: object({ cells: count }),
  FieldShape: object({
    kind: { enum: ['values', 'ranges'] },
    bins: list(object({ label: text, count })),
    others: count,
  }),
  FieldValues: object({ total: count, found: count, values: list(object({ value: scalar, count })) }),
  AbsentValues: object({ absent: list(scalar) }),
  Retype: object({ kept: count, lost: count, examples: list(text) }),
  Rejects: object({
    total: count,
    rejects: list(object({ line: count, column: text, reason: text, cells: list(text) })),
  }),
  Schedule: object({
    address: text,
    mode: { enum: ['replace', 'append', 'merge'] },
    by: orNull(text),
    cadence: text,
    zone: text,
    nextAt: orNull(time),
    triedAt: orNull(time),
    doneAt: orNull(time),
    changedAt: orNull(time),
    problem: orNull(text),
    failures: count,
  }),
  ImportPart: object({ part: text }),
  PushToken: object({ id: text, name: text, createdAt: time, usedAt: orNull(time) }),
  NewPushToken: object({ id: text, name: text, createdAt: time, usedAt: orNull(time), token: text }),
  Pushed: object({ rows: count, replaced: count, version: count }),
  DataVersion: object({
    seq: count,
    at: time,
    kind: { enum: ['import', 'replace', 'append', 'merge', 'push', 'back'] },
    rows: count,
    rowsIn: count,
    rowsOut: count,
    rejected: count,
    from: text,
    current: { type: 'boolean' },
  }),
  DataChange: object({
    fields: list(text),
    added: object({ count, rows: list(list(scalar)) }),
    removed: object({ count, rows: list(list(scalar)) }),
  }),
  RefreshPreview: object(
    {
      mode: { enum: ['replace', 'append', 'merge'] },
      by: text,
      rows: object({ now: count, in: count, out: count, after: count }),
      rejected: count,
      added: list(text),
      missing: list(object({ name: text, reach })),
      retyped: list(object({ name: text, from: typeName, to: typeName, reach })),
      values: list(object({ name: text, count, examples: list(text), reach })),
      refused: text,
    },
    ['by', 'refused'],
  ),
  Import: object(
    {
      id: text,
      file: text,
      state: { enum: ['asking', 'loading', 'staged', 'done', 'failed', 'cancelled'] },
      questions: list(
        object(
          {
            column: text,
            asks: { enum: ['dates', 'numbers', 'sheet', 'heading', 'totals', 'list', 'files', 'wide'] },
            within: object({ column: text, answer: text }),
            examples: list(text),
            options: list(object({ answer: text, reads: list(text) })),
          },
          ['within'],
        ),
      ),
      bytesRead: count,
      bytesTotal: count,
      rows: count,
      rejected: count,
      note: text,
      message: text,
      dataset: text,
      refresh: object({ dataset: text, mode: { enum: ['replace', 'append', 'merge'] }, by: text }, ['by']),
    },
    ['note', 'message', 'dataset', 'refresh'],
  ),
  SavedBoard: object({
    id: text,
    revision: count,
    updatedAt: time,
    document: ref('Board'),
    published: orNull(count),
    publishedAt: orNull(time),
    scratchOf: orNull(text),
    scratchFrom: orNull(count),
  }),
  ShownBoard: object({ id: text, revision: count, updatedAt: time, document: ref('Board') }),
  BoardVersion: object({
    revision: count,
    savedAt: time,
    title: text,
    name: orNull(text),
    published: { type: 'boolean' },
    added: list(text),
    removed: list(text),
  }),
  FileNeeds: object({
    title: text,
    needs: list(
      object({
        id: text,
        name: text,
        fields: listOf('Field'),
        dataset: orNull(text),
        found: { type: 'object' },
      }),
    ),
  }),
  Revision: object({ revision: count, updatedAt: time }),
};
