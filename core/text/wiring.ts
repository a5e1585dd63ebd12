import type { Board } from '../board/board';
import { tell } from '../messages/desk';
import { leverUses, type UseWord } from '../pipeline/lever-uses';
import { sentenceText } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';
import { chartSentences } from './chart-sentences';

/** What a lever does to a chart in one of its sentences. */
export interface Wire {
  how: UseWord;
  /** "lights", "is fed by it". */
  text: string;
  /** The place in the chart of the sentence that says so; none where it is a part of what the chart shows. */
  part?: (string | number)[];
  sentence?: string;
  off?: boolean;
}

/** The place of the sentence under a JSON Pointer: `/cues/0/condition` -> `['cues', 0]`. */
function partAt(pointer: string): (string | number)[] {
  const [, name = '', at] = pointer.split('/');
  return at !== undefined && /^\d+$/.test(at) ? [name, Number(at)] : [name];
}

const samePart = (a: readonly (string | number)[], b: readonly (string | number)[]) =>
  a.length === b.length && a.every((each, i) => each === b[i]);

/** What a lever and a chart have to do with each other, a line for each sentence that says so. */
export function wiresOf(board: Board, chartId: string, lever: string, words: Vocabulary): Wire[] {
  const chart = board.charts.find(({ id }) => id === chartId)!;
  const uses = leverUses(chart).filter((use) => use.lever === lever);
  if (!uses.length) return [];
  const sentences = chartSentences(chart, board, words);
  const wires = uses.map(({ how, pointer, off }): Wire => {
    const part = partAt(pointer);
    const sentence = sentences.find((each) => each.part && samePart(each.part, part));
    return {
      how,
      text: tell('wire', { use: how }),
      ...(sentence ? { part, sentence: sentenceText(sentence) } : {}),
      ...(off ? { off } : {}),
    };
  });
  return wires.filter(
    (wire, i) => wires.findIndex((other) => other.how === wire.how && other.sentence === wire.sentence) === i,
  );
}
