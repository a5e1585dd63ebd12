import { expect, it } from 'vitest';
import { board, chart, quays, years } from '../testing/fixtures';
import { newCue } from './defaults';
import { boardForViewers } from './for-viewers';

const hidden = { ...years, id: 'secret', name: 'Secret years', hidden: true };

it('hidden levers that nothing names are not sent, and those that draw are', () => {
  const sent = boardForViewers({ ...board, levers: [...board.levers, hidden] });
  expect(sent.levers).toEqual(board.levers);
  const cue = newCue('cue', { kind: 'picked', lever: 'secret' } as never, []);
  const named = {
    ...board,
    levers: [...board.levers, hidden],
    charts: [{ ...chart, cues: [...chart.cues, cue] }],
  };
  expect(boardForViewers(named).levers).toContain(hidden);
});

it('levers that are shown are sent whether anything names them or not', () => {
  const alone = { ...quays, id: 'nobody-names-it' };
  expect(boardForViewers({ ...board, levers: [alone] }).levers).toEqual([alone]);
});

it('what is switched off on a plot is not sent', () => {
  const guide = { kind: 'line', at: { of: 'mean' }, label: 'Our secret aim', off: true } as never;
  const cue = { ...newCue('cue', { kind: 'picked', lever: 'secret' } as never, []), off: true };
  const charts = [{ ...chart, guides: [guide], cues: [...chart.cues, cue] }];
  const sent = boardForViewers({ ...board, levers: [...board.levers, hidden], charts });
  expect(JSON.stringify(sent)).not.toMatch(/secret/i);
  expect(sent.charts[0]!.cues).toEqual(chart.cues);
});
