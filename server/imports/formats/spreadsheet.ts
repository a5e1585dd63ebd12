import { readFileSync } from 'node:fs';
import { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import * as XLSX from '@e965/xlsx';
import type { ImportQuestion } from '@sorvik/core/board/api-types';
import { tell } from '../../tell';
import { CsvWriter } from './csv-writer';
import {
  type Answers,
  type ReadColumn,
  type SourceFile,
  type TableFormat,
  UnreadableFile,
} from './format-kind';
import { entriesOf, limited, streamOf, withZip } from './packed';
import { type Cell, type Grid, headingNames, headingRow, totalsRows } from './sheet-grid';

/** Spreadsheets are read as a whole: larger ones are refused, packed and unpacked. */
const mostPacked = 100 * 1024 ** 2;
const mostUnpacked = 1024 ** 3;
const shownCells = 6;

const name = 'spreadsheet';

/** Whether a zip file is a spreadsheet, by what is in it. */
const isSpreadsheet = (path: string): Promise<boolean> =>
  withZip(path, async (zip) => {
    const names = (await entriesOf(zip)).map(({ fileName }) => fileName);
    return names.includes('xl/workbook.xml') || (names.includes('mimetype') && names.includes('content.xml'));
  }).catch(() => false);

/** Throws where a file is larger than is read as a whole, or unpacks to more than it says. */
async function refuseTooLarge({ path, bytes }: SourceFile): Promise<void> {
  if (bytes > mostPacked)
    throw new UnreadableFile(tell('formats.sheetTooLarge', { most: mostPacked / 1024 ** 2 }));
  await withZip(path, async (zip) => {
    const count = { bytes: 0 };
    for (const entry of await entriesOf(zip)) {
      const nowhere = new Writable({ write: (_chunk, _encoding, done) => done() });
      await pipeline(await streamOf(zip, entry), limited(count, mostUnpacked), nowhere);
    }
  });
}

interface Sheet {
  name: string;
  grid: Grid;
  /** Merged cells, by the row of the grid that they are in. */
  spans(row: number): { from: number; to: number }[];
  /** Cells that hold an error instead of a value. */
  errors: number;
}

const two = (n: number) => String(n).padStart(2, '0');

/** A day of a spreadsheet, which counts them, as text; with the time of day where it has one. */
function dayText(serial: number, date1904: boolean): Cell {
  const parts = XLSX.SSF.parse_date_code(serial, { date1904 }) as {
    y: number;
    m: number;
    d: number;
    H: number;
    M: number;
    S: number;
  } | null;
  if (!parts || serial < 0) return { is: 'number', text: String(serial) };
  const { y, m, d, H, M, S } = parts;
  const day = `${String(y).padStart(4, '0')}-${two(m)}-${two(d)}`;
  // Less than a day is a time of day.
  if (serial < 1) return { is: 'text', text: `${two(H)}:${two(M)}:${two(S)}` };
  return H || M || S
    ? { is: 'moment', text: `${day} ${two(H)}:${two(M)}:${two(S)}` }
    : { is: 'day', text: day };
}

function cellOf(cell: XLSX.CellObject | undefined, date1904: boolean): Cell | 'error' {
  if (!cell || cell.v === undefined || cell.v === null || cell.v === '') return null;
  if (cell.t === 'e') return 'error';
  if (cell.t === 'b') return { is: 'truth', text: String(cell.v) };
  if (cell.v instanceof Date) return { is: 'day', text: cell.v.toISOString().slice(0, 10) };
  if (cell.t === 'n') {
    const value = Number(cell.v);
    return typeof cell.z === 'string' && XLSX.SSF.is_date(cell.z)
      ? dayText(value, date1904)
      : { is: 'number', text: String(value) };
  }
  const text = String(cell.v);
  return text.trim() === '' ? null : { is: 'text', text };
}

function sheetOf(sheetName: string, sheet: XLSX.WorkSheet, date1904: boolean): Sheet {
  const data = ((sheet as { '!data'?: XLSX.CellObject[][] })['!data'] ?? []) as (
    | XLSX.CellObject[]
    | undefined
  )[];
  const rows: Cell[][] = [];
  const at: number[] = [];
  let width = 0;
  let errors = 0;
  data.forEach((row, r) => {
    if (!row) return;
    const cells: Cell[] = [];
    for (let c = 0; c < row.length; c++) {
      const cell = cellOf(row[c], date1904);
      if (cell === 'error') errors++;
      cells.push(cell === 'error' ? null : cell);
    }
    if (!cells.some((cell) => cell !== null)) return;
    rows.push(cells);
    at.push(r + 1);
    width = Math.max(width, cells.length);
  });
  for (const row of rows) while (row.length < width) row.push(null);
  const merges = sheet['!merges'] ?? [];
  return {
    name: sheetName,
    grid: { rows, at, width },
    errors,
    spans: (row) =>
      merges
        .filter(({ s, e }) => s.r + 1 === at[row] && e.c > s.c)
        .map(({ s, e }) => ({ from: s.c, to: e.c })),
  };
}

/** The sheets of a file that have rows. */
async function readSheets(file: SourceFile): Promise<Sheet[]> {
  await refuseTooLarge(file);
  let book: XLSX.WorkBook;
  try {
    book = XLSX.read(readFileSync(file.path), {
      type: 'buffer',
      dense: true,
      cellNF: true,
      cellFormula: false,
      cellHTML: false,
      cellText: false,
      cellDates: false,
    });
  } catch (error) {
    throw new UnreadableFile(
      tell('formats.cannotBeRead', { format: name, why: String((error as Error).message).slice(0, 300) }),
    );
  }
  const date1904 = book.Workbook?.WBProps?.date1904 === true;
  const sheets = book.SheetNames.map((each) => sheetOf(each, book.Sheets[each]!, date1904)).filter(
    ({ grid }) => grid.rows.length > 1,
  );
  if (!sheets.length) throw new UnreadableFile(tell('formats.emptySheets'));
  return sheets;
}

/** A file is read once, for what is asked and for its rows. */
const read = new Map<string, Promise<Sheet[]>>();

function sheetsOf(file: SourceFile): Promise<Sheet[]> {
  const known = read.get(file.path) ?? readSheets(file);
  read.set(file.path, known);
  return known;
}

const shown = (row: readonly Cell[] = []) =>
  row
    .filter((cell) => cell !== null)
    .slice(0, shownCells)
    .map((cell) => cell.text.slice(0, 60));

const chosenSheet = (sheets: readonly Sheet[], answers: Answers) =>
  sheets.find((sheet) => sheet.name === answers['#sheet']) ?? sheets[0]!;

/** What is asked of one sheet: where its heading is, where that is not its first row, and about rows that add up others. */
function questionsOf({ grid, name: sheet }: Sheet, prefix: boolean): ImportQuestion[] {
  const heading = headingRow(grid);
  const key = (what: string) => (prefix ? `#${what} ${sheet}` : `#${what}`);
  const within = prefix ? { within: { column: '#sheet', answer: sheet } } : {};
  const questions: ImportQuestion[] = [];
  if (heading > 0)
    questions.push({
      column: key('heading'),
      asks: 'heading',
      ...within,
      examples: [],
      options: [heading, ...grid.rows.slice(0, heading + 2).keys()]
        .filter((row, i, all) => all.indexOf(row) === i && row < grid.rows.length - 1)
        .map((row) => ({ answer: String(grid.at[row]), reads: shown(grid.rows[row]) })),
    });
  const totals = totalsRows(grid, heading);
  if (totals.length)
    questions.push({
      column: key('totals'),
      asks: 'totals',
      ...within,
      examples: totals.slice(0, 3).map((row) => shown(grid.rows[row]).join(' · ')),
      options: [
        { answer: 'out', reads: [] },
        { answer: 'keep', reads: [] },
      ],
    });
  return questions;
}

/** Workbooks: XLSX and ODS. */
export const spreadsheet: TableFormat = {
  name,
  is: async (head, { path }) =>
    head.subarray(0, 4).toString('latin1') === 'PK\u0003\u0004' && (await isSpreadsheet(path)),
  async asks(file) {
    const sheets = await sheetsOf(file);
    const several = sheets.length > 1;
    return [
      ...(several
        ? [
            {
              column: '#sheet',
              asks: 'sheet' as const,
              examples: [],
              options: sheets.map((sheet) => ({
                answer: sheet.name,
                reads: shown(sheet.grid.rows[headingRow(sheet.grid)]),
              })),
            },
          ]
        : []),
      ...sheets.flatMap((sheet) => questionsOf(sheet, several)),
    ];
  },
  async read(file, out, answers) {
    const sheets = await sheetsOf(file);
    const sheet = chosenSheet(sheets, answers);
    const { grid } = sheet;
    const answer = (what: string) => answers[`#${what}`] ?? answers[`#${what} ${sheet.name}`];
    const said = grid.at.indexOf(Number(answer('heading')));
    const heading = said >= 0 ? said : headingRow(grid);
    const left = new Set(answer('totals') === 'keep' ? [] : totalsRows(grid, heading));
    const names = headingNames(grid, heading, heading > 0 ? sheet.spans(heading - 1) : []);
    const rows = grid.rows.filter((_, r) => r > heading && !left.has(r));
    if (!rows.length) throw new UnreadableFile(tell('formats.emptySheets'));
    // Columns without a name and without a value are the rest of a wider sheet.
    const used = names.flatMap((each, c) => (each || rows.some((row) => row[c] !== null) ? [c] : []));
    const writer = new CsvWriter(out);
    await writer.write(used.map((c) => names[c]!));
    for (const row of rows) await writer.write(used.map((c) => row[c]?.text ?? null));
    await writer.end();
    const columns = used.map((c): ReadColumn => {
      const kinds = new Set(rows.map((row) => row[c]?.is).filter((each) => each !== undefined));
      const texts = kinds.size > 0 && [...kinds].every((each) => each === 'text');
      return { name: names[c]!, is: texts ? 'text-or-date' : null };
    });
    return {
      columns,
      notes: [
        ...(left.size ? [tell('formats.totalsLeftOut', { n: left.size })] : []),
        ...(sheet.errors ? [tell('formats.errorCells', { n: sheet.errors })] : []),
      ],
      unread: [],
    };
  },
};
