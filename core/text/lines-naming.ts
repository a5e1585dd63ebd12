import type { FormulaEngine } from '@sorvik/formula/engine';
import type { Board } from '../board/board';
import type { DatasetInfo } from '../data/dataset';
import { boardLines, linesOnlyIn } from './board-lines';

/** No name has it: a field that carries it is told apart from what it is called. */
const mark = '\u2060';

/**
 * What a board says that names a field, line by line. Whatever reads otherwise once the field is called otherwise names it,
 * whichever way it does.
 */
export function linesNaming(
  board: Board,
  datasets: readonly DatasetInfo[],
  { dataset, key }: { dataset: string; key: string },
  engine: FormulaEngine | null,
): string[] {
  const renamed = datasets.map((info) =>
    info.id === dataset
      ? {
          ...info,
          fields: info.fields.map((field) =>
            field.key === key ? { ...field, name: `${field.name}${mark}` } : field,
          ),
        }
      : info,
  );
  return linesOnlyIn(boardLines(board, datasets, engine), boardLines(board, renamed, engine));
}
