import { sentencesPage } from '@sorvik/core/edit/sentences-page';
import { fullEngine } from '@sorvik/formula/full-engine';
import { publishedBoardSchema } from './boards/board-schema';

/** The pages in docs/ that are made from the code, by their names: `npm run docs` writes them. */
export const docsPages = (): Record<string, string> => ({
  'board.schema.json': `${JSON.stringify(publishedBoardSchema(), null, 2)}\n`,
  'sentences.md': sentencesPage(fullEngine),
});
