import { IsOptional } from '../board/validation';
import { tell } from '../messages/desk';
import 'reflect-metadata/lite';
import type { FormulaEngine } from '@sorvik/formula/engine';
import { everyPart } from '@sorvik/formula/parts-of';
import { plainToInstance } from 'class-transformer';
import {
  ArrayMaxSize,
  Equals,
  IsIn,
  IsNotEmpty,
  IsObject,
  IsString,
  Matches,
  MaxLength,
  validateSync,
} from 'class-validator';
import type { Board } from '../board/board';
import { IsId } from '../board/id';
import { Part } from '../board/part';
import { type Problem, problemsOf } from '../board/problem';
import { formulaKeys } from '../board/text-formulas';
import type { DatasetInfo, FieldInfo } from '../data/dataset';
import { type FieldType, fieldTypes, isNumeric, isTemporal } from '../data/values';
import { readBoard } from './read-board';
import { withFieldNames } from './rename-fields';

/** The version of the file around a board that this program writes. */
export const fileVersion = 1;

/** A field as a board file knows it, for finding it again elsewhere. */
export class FileField {
  @IsString()
  @Matches(/^[a-z_][a-z0-9_]{0,62}$/, { message: ({ property }) => tell('boardFile.fieldKey', { property }) })
  key!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  name!: string;

  @IsIn(fieldTypes)
  type!: FieldType;

  /** What it is computed from. */
  @IsOptional()
  @IsString()
  @MaxLength(10_000)
  formula?: string;
}

/** A dataset as a board file knows it. */
export class FileDataset {
  @IsId()
  id!: string;

  @IsString()
  @IsNotEmpty()
  @MaxLength(200)
  name!: string;

  @ArrayMaxSize(1600)
  @Part(() => FileField, true)
  fields!: FileField[];
}

/** A board as a file: its document, and what it needs of which datasets. */
export class BoardFile {
  @Equals('board')
  sorvik!: 'board';

  @Equals(fileVersion)
  version!: typeof fileVersion;

  @IsObject()
  document!: Board;

  @ArrayMaxSize(50)
  @Part(() => FileDataset, true)
  datasets!: FileDataset[];
}

export type FileReading = { ok: true; file: BoardFile } | { ok: false; problems: Problem[] };

const refused = (pointer: string, message: string): FileReading => ({
  ok: false,
  problems: [{ pointer, message }],
});

/** Reads a board file from untrusted JSON: what is broken, hostile, or from a newer version is refused with the reason. */
export function readBoardFile(input: unknown): FileReading {
  if (typeof input !== 'object' || input === null || Array.isArray(input))
    return refused('', tell('boardFile.aBoardFileIs'));
  const { sorvik, version, document } = input as Record<string, unknown>;
  if (sorvik !== 'board') return refused('', tell('boardFile.thisJsonFileIs'));
  if (typeof version === 'number' && version > fileVersion)
    return refused('', tell('boardFile.thisFileWasMade', { version, fileVersion }));
  const board = readBoard(document);
  if (!board.ok)
    return {
      ok: false,
      problems: board.problems.map(({ pointer, message }) => ({ pointer: `/document${pointer}`, message })),
    };
  const instance = plainToInstance(BoardFile, { ...input, document: {} });
  const problems = problemsOf(
    validateSync(instance, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true }),
  );
  if (problems.length) return { ok: false, problems };
  return { ok: true, file: { ...(input as BoardFile), document: board.board } };
}

type Visit = (holder: Record<string, unknown>, key: string, value: string) => void;

/** Visits every text in a part of a document. */
function eachText(part: unknown, visit: Visit): void {
  if (Array.isArray(part)) for (const item of part) eachText(item, visit);
  if (typeof part !== 'object' || part === null || Array.isArray(part)) return;
  for (const [key, value] of Object.entries(part)) {
    if (typeof value === 'string') visit(part as Record<string, unknown>, key, value);
    else eachText(value, visit);
  }
}

const parts = ({ charts, levers }: Board) => [...charts, ...levers] as { dataset?: string }[];

/** The keys of the fields of a dataset that a board names, in formulas too. */
export function fieldsNamed(board: Board, dataset: string, engine: FormulaEngine): string[] {
  const found = new Set<string>();
  for (const part of parts(board)) {
    if (part.dataset !== dataset) continue;
    eachText(part, (_holder, key, value) => {
      if (key === 'field') found.add(value);
      if (!formulaKeys.includes(key)) return;
      const parsed = engine.parse(value);
      if (!parsed.ok) return;
      for (const each of everyPart(parsed.expression)) if (each.kind === 'name') found.add(each.name);
    });
  }
  return [...found];
}

/** Where a dataset of a file is here, and which of its fields have other keys. */
export interface Mapped {
  dataset: string;
  fields: ReadonlyMap<string, string>;
}

/** A board that reads other datasets, and names their fields by the keys that they have there. */
export function mappedBoard(board: Board, to: ReadonlyMap<string, Mapped>, engine: FormulaEngine): Board {
  const copy = structuredClone(board);
  for (const part of parts(copy)) {
    const mapped = part.dataset === undefined ? undefined : to.get(part.dataset);
    if (!mapped) continue;
    const change = (name: string) => mapped.fields.get(name);
    eachText(part, (holder, key, value) => {
      if (key === 'field') holder[key] = change(value) ?? value;
      if (formulaKeys.includes(key)) holder[key] = withFieldNames(value, change, engine);
    });
    part.dataset = mapped.dataset;
  }
  return copy;
}

const sort = (type: FieldType) => (isNumeric(type) ? 'number' : isTemporal(type) ? 'time' : type);

/** What a dataset here has in the place of a field of a file: one of its key or name and sort, or undefined. */
export const fieldLike = (field: FileField, dataset: DatasetInfo): FieldInfo | undefined => {
  const fits = dataset.fields.filter(({ type }) => sort(type) === sort(field.type));
  return (
    fits.find(({ key }) => key === field.key) ??
    fits.find(({ name }) => name.toLowerCase() === field.name.toLowerCase())
  );
};

/** What a board of a file needs of one of its datasets, and where that is here. */
export interface FileNeed {
  id: string;
  name: string;
  /** The fields that it names. */
  fields: FileField[];
  /** The dataset here that has most of them; null where none has any. */
  dataset: string | null;
  /** For each dataset here, which of its fields stand for those; keys that are not there are missing. */
  found: Record<string, Record<string, string>>;
}

/** What a file needs, held against the datasets that are here. */
export function fileNeeds(
  { document, datasets }: BoardFile,
  here: readonly DatasetInfo[],
  engine: FormulaEngine,
): FileNeed[] {
  return datasets.map(({ id, name, fields }) => {
    const named = fieldsNamed(document, id, engine);
    const wanted = fields.filter(({ key }) => named.includes(key));
    const found = Object.fromEntries(
      here.map((dataset) => [
        dataset.id,
        Object.fromEntries(
          wanted.flatMap((field) => {
            const like = fieldLike(field, dataset);
            return like ? [[field.key, like.key]] : [];
          }),
        ),
      ]),
    );
    const count = (dataset: DatasetInfo) =>
      Object.keys(found[dataset.id]!).length + (dataset.id === id ? 0.5 : 0);
    const [best] = [...here].sort((a, b) => count(b) - count(a));
    return { id, name, fields: wanted, dataset: best && count(best) >= 1 ? best.id : null, found };
  });
}
