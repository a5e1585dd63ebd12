import { PassThrough, Readable } from 'node:stream';
import { type Board, datasetsOf } from '@sorvik/core/board/board';
import type { FieldType } from '@sorvik/core/data/values';
import {
  type BoardFile,
  type FileDataset,
  fileVersion,
  type Mapped,
  mappedBoard,
  readBoardFile,
} from '@sorvik/core/edit/board-file';
import { withFieldNames } from '@sorvik/core/edit/rename-fields';
import { english } from '@sorvik/core/messages/locale';
import { listed } from '@sorvik/core/words/plural';
import { fullEngine } from '@sorvik/formula/full-engine';
import { ZipFile } from 'yazl';
import { addComputed } from '../datasets/computed';
import { rowsAsCsv } from '../datasets/rows-csv';
import { datasetInfos, fieldsOf, findDataset, type StoredDataset } from '../datasets/store';
import type { Database } from '../db/client';
import { HttpProblem, invalid } from '../http/problem';
import type { ColumnPlan } from '../imports/column-plan';
import type { ImportJobs } from '../imports/jobs';
import { tell } from '../tell';
import { type Unpacked, unpack } from './file-zip';
import { createBoard, type StoredBoard } from './store';

const dataPath = (id: string) => `data/${id}.csv`;
export const fileName = (board: StoredBoard, ending: string) => `${board.id}.sorvik.${ending}`;

async function fileDataset({ db }: Database, id: string): Promise<FileDataset | null> {
  const found = await findDataset(db, id).catch((error) => {
    if (error instanceof HttpProblem && error.status === 404) return null;
    throw error;
  });
  if (!found) return null;
  const fields = await fieldsOf(db, id);
  return {
    id,
    name: found.name,
    fields: fields.map(({ key, name, type, formula }) => ({
      key,
      name,
      type,
      ...(formula === undefined ? {} : { formula }),
    })),
  };
}

/** A board as one JSON file: its document, and what the datasets are that it reads. */
export async function boardFile(database: Database, board: StoredBoard): Promise<BoardFile> {
  const known = await Promise.all(datasetsOf(board.document).map((id) => fileDataset(database, id)));
  return {
    sorvik: 'board',
    version: fileVersion,
    document: board.document,
    datasets: known.filter((dataset) => dataset !== null),
  };
}

const packageTypes: Record<FieldType, string> = {
  integer: 'integer',
  decimal: 'number',
  text: 'string',
  boolean: 'boolean',
  date: 'date',
  datetime: 'datetime',
};

/** The data beside a board, described as a Frictionless Data Package. */
export const datapackage = (file: BoardFile) => ({
  profile: 'tabular-data-package',
  name:
    file.document.title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '') || 'board',
  title: file.document.title,
  resources: file.datasets.map(({ id, name, fields }) => ({
    profile: 'tabular-data-resource',
    name: id,
    title: name,
    path: dataPath(id),
    format: 'csv',
    encoding: 'utf-8',
    dialect: { delimiter: ',', doubleQuote: true, header: true },
    schema: {
      fields: fields
        .filter(({ formula }) => formula === undefined)
        .map((field) => ({
          name: field.name,
          type: packageTypes[field.type],
          ...(field.type === 'datetime' ? { format: '%Y-%m-%dT%H:%M:%S' } : {}),
        })),
      missingValues: [''],
    },
  })),
});

/** The rows of a dataset as CSV; what is computed is computed anew where they are read. */
async function plainRows(database: Database, id: string): Promise<Readable> {
  const dataset = await findDataset(database.db, id);
  const fields = await fieldsOf(database.db, id);
  return rowsAsCsv(
    database,
    dataset,
    fields.filter(({ formula }) => formula === undefined),
  );
}

/** Refuses a board that reads tables in place: a file cannot hold what is not here. */
async function needRowsHere({ db }: Database, { datasets }: BoardFile): Promise<void> {
  const found = await Promise.all(datasets.map(({ id }) => findDataset(db, id)));
  const inPlace = found.filter(({ connection }) => connection !== null).map(({ name }) => name);
  if (inPlace.length)
    throw new HttpProblem(
      409,
      'table-in-place',
      tell('inPlace.noData', { n: inPlace.length, datasets: listed(inPlace, english) }),
    );
}

/** A board with its data, as a zip file that is made while it is sent. */
export async function boardZip(database: Database, board: StoredBoard): Promise<Readable> {
  const file = await boardFile(database, board);
  await needRowsHere(database, file);
  const zip = new ZipFile();
  const json = (value: unknown) => Buffer.from(`${JSON.stringify(value, null, 2)}\n`);
  zip.addBuffer(json(file), 'board.json');
  zip.addBuffer(json(datapackage(file)), 'datapackage.json');
  const out = new PassThrough();
  zip.on('error', (error) => out.destroy(error as Error));
  let rowsNow: Readable | undefined;
  out.on('close', () => rowsNow?.destroy());
  for (const { id } of file.datasets)
    zip.addReadStreamLazy(dataPath(id), (give) => {
      plainRows(database, id).then(
        (rows) => {
          rowsNow = rows;
          if (out.destroyed) rows.destroy();
          give(null, rows);
        },
        (error) => give(error, Readable.from([])),
      );
    });
  zip.end();
  zip.outputStream.pipe(out);
  return out;
}

/** A board file that can be used, or an answer that says why not. */
export function needFile(input: unknown): BoardFile {
  const reading = readBoardFile(input);
  if (!reading.ok) throw invalid(reading.problems.slice(0, 50));
  return reading.file;
}

/** What stands for the datasets of a file here. */
export type GivenDatasets = Record<string, { dataset: string; fields: Record<string, string> }>;

/** Keeps the board of a file; its datasets are those named, with the fields named. */
export async function importFile(
  database: Database,
  file: BoardFile,
  given: GivenDatasets,
): Promise<StoredBoard> {
  const here = await datasetInfos(database.db);
  const to = new Map<string, Mapped>();
  for (const id of datasetsOf(file.document)) {
    const choice = given[id];
    const dataset = here.find((each) => each.id === choice?.dataset);
    if (!choice || !dataset)
      throw invalid([{ pointer: `/datasets/${id}`, message: tell('files.nameADatasetThat') }]);
    for (const [key, other] of Object.entries(choice.fields))
      if (!dataset.fields.some((field) => field.key === other))
        throw invalid([
          {
            pointer: `/datasets/${id}/fields/${key}`,
            message: tell('files.thereIsNoField', { other, dataset: dataset.name }),
          },
        ]);
    to.set(id, { dataset: dataset.id, fields: new Map(Object.entries(choice.fields)) });
  }
  return createBoard(database.db, mappedBoard(file.document, to, fullEngine));
}

const planOf = ({ name, type }: { name: string; type: FieldType }): ColumnPlan => ({
  name,
  type,
  number: { decimal: '.', group: '' },
  date: 'ymd',
  ambiguousDate: false,
  ambiguousNumbers: [],
  examples: [],
});

/** Loads one dataset of a zip file; gives the key that each of its fields has here. */
async function loadDataset(
  database: Database,
  jobs: ImportJobs,
  zip: Unpacked,
  dataset: FileDataset,
  made: string[],
): Promise<Mapped> {
  const plain = dataset.fields.filter(({ formula }) => formula === undefined);
  const id = await jobs.loadAs(
    `${dataset.name}.csv`,
    await zip.stream(dataPath(dataset.id)),
    plain.map(planOf),
  );
  made.push(id);
  const loaded = await fieldsOf(database.db, id);
  const fields = new Map(plain.map(({ key }, i) => [key, loaded[i]!.key]));
  for (const { key, name, formula } of dataset.fields) {
    if (formula === undefined) continue;
    const stored: StoredDataset = await findDataset(database.db, id);
    const own = withFieldNames(formula, (field) => fields.get(field), fullEngine);
    fields.set(key, await addComputed(database, stored, { name, formula: own }));
  }
  return { dataset: id, fields };
}

/** Keeps a board with its data. Everything is looked at before anything is changed; what fails takes all back. */
export async function importZip(
  database: Database,
  jobs: ImportJobs,
  source: Readable,
): Promise<StoredBoard> {
  const zip = await unpack(jobs.folder, database.room, source);
  const made: string[] = [];
  try {
    const file = needFile(await zip.json('board.json'));
    await zip.json('datapackage.json');
    const missing = datasetsOf(file.document).filter((id) => !file.datasets.some((each) => each.id === id));
    if (missing.length)
      throw invalid([
        { pointer: '/datasets', message: tell('files.theBoardReadsWhich', { datasets: missing.join(', ') }) },
      ]);
    for (const { id } of file.datasets)
      if (!zip.names.includes(dataPath(id)))
        throw new HttpProblem(422, 'file-cannot-be-used', tell('files.itHoldsNo', { id: dataPath(id) }));
    const to = new Map<string, Mapped>();
    for (const dataset of file.datasets) {
      to.set(dataset.id, await loadDataset(database, jobs, zip, dataset, made));
    }
    return await createBoard(database.db, mappedBoard(file.document as Board, to, fullEngine));
  } catch (error) {
    for (const id of made) await jobs.forget(id);
    throw error;
  } finally {
    await zip.close();
  }
}
