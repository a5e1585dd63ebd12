import type { DatasetInfo } from '../data/dataset';
import type { FieldType, KeyValue } from '../data/values';
import type { Board } from './board';

// What the server says and the page reads: the shapes that travel between them as JSON.

/** How far the column copy of a dataset is, which makes answers faster; `share` of its rows are over. */
export type CopyView =
  | { state: 'ready' | 'waiting' | 'failed' | 'none' }
  | { state: 'making'; share: number };

export interface DatasetView extends DatasetInfo {
  rejected: number;
  createdAt: string;
  source: ImportSource;
  /** The boards that read it. */
  boards: { id: string; title: string }[];
  /** Rows come so often that the profiles are of a moment ago: who asks again gets those of now. */
  behind?: true;
  /** Left out where copies are switched off. */
  copy?: CopyView;
  /** When its rows last came, and how often they have. */
  data?: { at: string; versions: number };
  /** How it is refreshed by itself. */
  schedule?: ScheduleView;
  /** Where its rows are, for a table that is read in place. */
  inPlace?: { connection: string; name: string; table: string };
  /** Only some of its rows are for whoever asks: what is said is said of those. */
  restricted?: true;
}

/** Which rows of a dataset those see who do not own it; null for all. */
export interface RowRuleView {
  rule: string | null;
}

/** What somebody sees of a dataset. */
export interface TriedRule {
  /** They own it, and see all whatever the rule says. */
  owns: boolean;
  rows: number;
  of: number;
  fields: string[];
  sample: (string | number | boolean | null)[][];
}

/** Another database, of which tables can be read in place. Its password never comes back. */
export interface ConnectionView {
  id: string;
  name: string;
  host: string;
  port: number;
  database: string;
  user: string;
  /** Whether what is sent is encrypted, and by which certificates the server is known. */
  tls: 'off' | 'usual' | 'own';
  authority: string | null;
  /** So long a statement may take. */
  seconds: number;
  /** So many connections are open at a time. */
  most: number;
  /** What of it is used. */
  datasets: { id: string; name: string }[];
}

/** A table or a view of another database; `rows` as that database estimates them, null where it does not know. */
export interface RemoteTable {
  schema: string;
  name: string;
  kind: 'table' | 'view';
  rows: number | null;
}

/** A column of such a table; without a type it cannot be shown. */
export interface RemoteField {
  name: string;
  is: string;
  type: FieldType | null;
}

/** What there is to know of a table before it is used; `changeable`: whoever connects could also change its rows. */
export interface RemoteTableView extends RemoteTable {
  fields: RemoteField[];
  changeable: boolean;
}

/** A board that was deleted and can come back. */
export interface DeletedBoard {
  id: string;
  title: string;
  deletedAt: string;
}

/** A dataset that was deleted and can come back. */
export interface DeletedDataset {
  id: string;
  name: string;
  rows: number;
  deletedAt: string;
  /** The room that its rows take on the disk. */
  bytes: number;
}

/** How the numbers and dates of a file's column are written. */
export interface CellFormat {
  number: { decimal: '.' | ','; group: '' | ',' | '.' | ' ' | "'" };
  date: 'ymd' | 'dmy' | 'mdy';
}

/** What an import found out and did. */
export interface ImportSource {
  file: string;
  encoding: string;
  separator: string;
  notes: string[];
  /** The format of the file, where it is not text with separators. */
  format?: string;
  /** By the names of columns: what was found out or answered holds for the files to come. */
  formats?: Record<string, CellFormat>;
}

/** What made a state of a dataset's rows. */
export type DataVersionKind = 'import' | RefreshMode | 'push' | 'back';

/** A state that the rows of a dataset have been in. */
export interface DataVersion {
  /** Counts them, from 1. */
  seq: number;
  at: string;
  kind: DataVersionKind;
  rows: number;
  rowsIn: number;
  rowsOut: number;
  rejected: number;
  /** What the rows came from. */
  from: string;
  current: boolean;
}

/** What changed between two states: how many rows are only in one of them, and the first of those. */
export interface DataChange {
  fields: string[];
  added: { count: number; rows: unknown[][] };
  removed: { count: number; rows: unknown[][] };
}

/** How new rows come to those that are there: `merge` first takes away those with the same key. */
export type RefreshMode = 'replace' | 'append' | 'merge';

/** What says something of a field: a board, and its sentences that name the field. */
export interface FieldReach {
  board: string;
  title: string;
  lines: string[];
}

/** What lets a program push rows to a dataset; the token itself is told once, when it is made. */
export interface PushToken {
  id: string;
  name: string;
  createdAt: string;
  usedAt: string | null;
}

/** How a dataset is refreshed by itself, and how that went. */
export interface ScheduleView {
  address: string;
  mode: RefreshMode;
  by: string | null;
  /** When, as a cron expression in the time zone. */
  cadence: string;
  zone: string;
  nextAt: string | null;
  triedAt: string | null;
  /** When it last went well, and when that last changed something. */
  doneAt: string | null;
  changedAt: string | null;
  /** Why the last try failed. */
  problem: string | null;
  failures: number;
}

/** What a refresh would change. */
export interface RefreshPreview {
  mode: RefreshMode;
  /** The key of the field by which rows are replaced. */
  by?: string;
  rows: { now: number; in: number; out: number; after: number };
  rejected: number;
  added: string[];
  missing: { name: string; reach: FieldReach[] }[];
  retyped: { name: string; from: FieldType; to: FieldType; reach: FieldReach[] }[];
  /** Values that were not there before, of fields that levers or colours name. */
  values: { name: string; count: number; examples: string[]; reach: FieldReach[] }[];
  /** Why it cannot be done; left out where it can. */
  refused?: string;
}

export interface SavedBoard {
  id: string;
  revision: number;
  updatedAt: string;
  document: Board;
  /** The revision that viewers see; null while nothing has been published and they see the draft. */
  published: number | null;
  publishedAt: string | null;
  /** The board of which this is a copy to try something on, and the revision of it that was copied. */
  scratchOf: string | null;
  scratchFrom: number | null;
  /** Whoever asked may see it and no more: it is as it was published. */
  viewed?: true;
  /** Whoever asked owns it, where people sign in. */
  owned?: true;
}

/** What viewers see of a board. */
export type ShownBoard = Pick<SavedBoard, 'id' | 'revision' | 'updatedAt' | 'document'>;

/** What a board has been at a time. */
export interface BoardVersion {
  revision: number;
  savedAt: string;
  title: string;
  /** What the author calls it. */
  name: string | null;
  published: boolean;
  /** What was said then and not in the version before it, and the other way round; and how much more. */
  added: string[];
  removed: string[];
}

/**
 * What has to be said before a file can be read: how the cells of a column are meant that fit two readings (dates that could
 * be day-first or month-first, numbers whose mark could part thousands or decimals); which sheet, which row names the
 * columns, whether rows that add up others stay; what becomes of a list within a row; whether files keep their names;
 * whether columns that are periods become rows.
 */
export interface ImportQuestion {
  /** What it is about: the name of a column, or of something else behind a `#`. */
  column: string;
  asks: 'dates' | 'numbers' | 'sheet' | 'heading' | 'totals' | 'list' | 'files' | 'wide';
  /** It is only to be answered where another one was answered so. */
  within?: { column: string; answer: string };
  /** A few of its cells, as they stand in the file. */
  examples: string[];
  /** What can be answered, and what each of the examples then is. */
  options: { answer: string; reads: string[] }[];
}

/** How far an import is. */
export interface ImportView {
  id: string;
  file: string;
  /** `staged`: the rows are there, and somebody is to say that they become those of a dataset. */
  state: 'asking' | 'loading' | 'staged' | 'done' | 'failed' | 'cancelled';
  questions: ImportQuestion[];
  bytesRead: number;
  bytesTotal: number;
  rows: number;
  rejected: number;
  note?: string | undefined;
  message?: string;
  dataset?: string;
  /** What is to become of the rows, where they are no dataset of their own. */
  refresh?: { dataset: string; mode: RefreshMode; by?: string };
}

/** A row of a file that did not fit: where it began, which column, why, and its cells as they stood there. */
export interface Reject {
  line: number;
  column: string;
  reason: string;
  cells: string[];
}

/** How a field's values are spread: its most frequent values, or ranges of equal width. */
export interface FieldShape {
  kind: 'values' | 'ranges';
  bins: { label: string; count: number }[];
  /** Rows with values that no bin counts. */
  others: number;
}

/** What names a field: computed fields by their names, and boards. */
export interface FieldUses {
  fields: string[];
  boards: { id: string; title: string }[];
  /** Left out where copies are switched off. */
  copy?: CopyView;
}

/** A page of a field's values in natural order; `found` counts those that a search leaves, `total` all. */
export interface FieldValues {
  total: number;
  found: number;
  values: { value: KeyValue; count: number }[];
}

/** What a change of type keeps, and what it would leave empty. */
/** What looking up rows in another dataset would find. */
export interface LookupPreview {
  /** Rows that find one there, that find none, and that have no value to look up by. */
  rows: { matched: number; unmatched: number; empty: number };
  /** Values of these rows that are in no row there. */
  unmatched: { count: number; examples: string[] };
  /** Values there that are in more than one row. */
  doubled: { count: number; examples: string[] };
}

export interface RetypePreview {
  kept: number;
  lost: number;
  /** A few of the values that would be lost. */
  examples: string[];
}

export interface Person {
  id: string;
  email: string;
  name: string;
}

/** Somebody who signs in. */
export interface PersonView extends Person {
  /** Owners invite people, and own every board and dataset. */
  owner: boolean;
  off?: boolean;
  createdAt?: string;
}

/** Whether people sign in here, and who is signed in. */
export interface MeView {
  team: boolean;
  /** What the provider of identities is called that people can sign in at. */
  provider?: string;
  /** Links to choose another password are mailed. */
  mails?: true;
  person?: PersonView;
}

/** A browser in which somebody is signed in. */
export interface SessionView {
  id: string;
  createdAt: string;
  usedAt: string;
  agent: string;
  address: string;
  here: boolean;
}

/** What an invitation is for: a person who is known chooses a new password, others say who they are. */
export type InvitationView = { known: true; email: string; name: string } | { known: false; owner: boolean };

/** A link that works once. */
export interface LinkView {
  path: string;
  endsAt: string;
}

/** What somebody may do with a board or a dataset; `everybody` is whoever is signed in. */
export interface RightView {
  grantee: string;
  role: 'view' | 'edit' | 'own';
  name: string | null;
  email: string | null;
}

/** By which right somebody may do something: as an owner of the server, or one that they, a group of theirs or everybody has. */
export type RightBy =
  | { is: 'owner' }
  | { is: 'person' | 'everybody'; role: RightView['role'] }
  | { is: 'group'; role: RightView['role']; name: string };

/** What somebody may do with a board or a dataset in the end, and why. */
export interface WhoMay extends Person {
  role: RightView['role'];
  by: RightBy[];
}

export interface WhoMayView {
  people: WhoMay[];
  /** Of a board: what it is made of that some of them do not see. */
  data: {
    dataset: string;
    title: string;
    /** They see none of its figures. */
    blind: Person[];
    /** They make charts, and see no more of it than what is published. */
    partly: Person[];
  }[];
}

/** What lets programs act for a person; the token itself is told once. */
export interface PersonTokenView {
  id: string;
  name: string;
  scope: 'read' | 'push' | 'edit';
  createdAt: string;
  usedAt: string | null;
  endsAt: string;
}

/** A link by which whoever has it sees a published board. */
export interface BoardLink {
  id: string;
  name: string;
  /** Where levers stand, as the address of a show says it; empty for the start. */
  positions: string;
  /** Levers that stay there, by their ids. */
  fixed: string[];
  /** The origins whose pages may show it. */
  origins: string[];
  /** Whether a password is wanted. */
  locked: boolean;
  madeBy: string | null;
  createdAt: string;
  endsAt: string | null;
  uses: number;
  usedAt: string | null;
}

/** Where a link leads, or that a password is wanted first. */
export type Followed = { locked: true } | { locked: false; board: string; positions: string };

/** People who are given rights together. */
export interface GroupView {
  id: string;
  name: string;
  /** The ids of its people. */
  people: string[];
}

/** What was done to rights or with them. */
export interface AuditEntry {
  id: number;
  at: string;
  person: string | null;
  name: string | null;
  action: string;
  thing: string | null;
  detail: Record<string, unknown>;
  address: string;
}
