import { fullEngine } from '@sorvik/formula/full-engine';
import { expect, it } from 'vitest';
import { sentencesPage } from './sentences-page';

const page = sentencesPage(fullEngine);

it('has an example, a use and the choices of each sentence', () => {
  const entry = page.split('### ').find((each) => each.startsWith('Lights the top or bottom N bars'))!;
  expect(entry).toContain(
    '> [Lights] bars ranked 1 to [Count] from the [Side], ties [all lit], in [orange, outlined].',
  );
  expect(entry).toContain('- Ties: also *cut off at the count*');
  expect(page.match(/^### /gm)!.length).toBeGreaterThan(40);
});
