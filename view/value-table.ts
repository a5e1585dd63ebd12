import type { ChartResult } from '@sorvik/core/pipeline/stage';
import { type ValueRows, valueRows } from '@sorvik/core/text/value-rows';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { whilePassing } from './caption';
import { element } from './element';
import { paced } from './paced';
import { say } from './say';

const cell = (name: 'th' | 'td', text: string) => {
  const made = document.createElement(name);
  made.textContent = text;
  return made;
};

/** The values of a chart as a real table, kept in step with the drawing; it writes only what has changed. */
export class ValueTable {
  readonly element = element('div', 'sv-values');
  private readonly table = document.createElement('table');
  private readonly caption = this.table.createCaption();
  private readonly head = this.table.createTHead();
  private readonly body = this.table.createTBody();
  private readonly rest = element('p', 'sv-none');
  private readonly pace = paced(whilePassing);
  private said: ValueRows = { head: [], rows: [], more: 0 };

  constructor() {
    this.element.setAttribute('role', 'region');
    this.element.append(this.table, this.rest);
  }

  show(result: ChartResult, passing: boolean): void {
    this.pace(() => this.write(result), passing);
  }

  private write(result: ChartResult): void {
    const { board, dataset, engine } = result.input;
    const words = vocabularyOf(board, dataset, engine);
    const now = valueRows(result, words);
    const title = chartTitle(result.chart, words);
    this.element.setAttribute('aria-label', say(words.locale, 'values.of', { title }));
    if (this.caption.textContent !== title) this.caption.textContent = title;
    if (now.head.join('\n') !== this.said.head.join('\n')) {
      const row = document.createElement('tr');
      row.append(
        ...now.head.map((text) => {
          const made = cell('th', text);
          made.scope = 'col';
          return made;
        }),
      );
      this.head.replaceChildren(row);
    }
    const { rows } = this.body;
    while (rows.length > now.rows.length) this.body.deleteRow(-1);
    now.rows.forEach(({ cells, state }, i) => {
      const before = this.said.rows[i]?.cells;
      const row = rows[i] ?? this.body.insertRow();
      row.dataset.is = state;
      while (row.cells.length > cells.length) row.deleteCell(-1);
      cells.forEach((text, j) => {
        if (!row.cells[j]) {
          const made = cell(j ? 'td' : 'th', text);
          if (!j) made.scope = 'row';
          row.append(made);
        } else if (before?.[j] !== text) row.cells[j]!.textContent = text;
      });
    });
    this.rest.textContent = now.more ? say(words.locale, 'values.more', { n: now.more }) : '';
    this.said = now;
  }
}
