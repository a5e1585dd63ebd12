import type { Positions } from '@sorvik/core/levers/lever-kind';
import { board, chart, cube, dataset, positionsAt, testDay } from '@sorvik/core/testing/fixtures';
import { ChartView } from '@sorvik/view/chart-view';

// A page of somebody's own: it keeps where the levers stand, and draws a chart with the view alone.
let positions: Positions = {};
const heard: unknown[] = [];
const input = () => ({
  board,
  chart: { ...chart, subtitle: '{lit} of {all}' },
  dataset,
  cube,
  positionOf: positionsAt(board.levers, positions),
  facts: {},
  today: testDay,
  engine: null,
});
const view = new ChartView(document.querySelector('figure')!, {
  id: 'plain',
  move(lever, position, passing) {
    heard.push([lever.id, position, passing]);
    positions = { ...positions, [lever.id]: position };
    view.moved(input(), passing);
  },
  press: (reading) => heard.push(['press', reading]),
});
view.update(input());
Object.assign(globalThis, { view, heard });
