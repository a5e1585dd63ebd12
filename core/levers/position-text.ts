import { say } from '../messages/say';
import { keyText } from '../words/key-text';
import { listed } from '../words/plural';
import type { Vocabulary } from '../words/vocabulary';
import type { LeverFacts } from './lever-kind';
import { kindOf, type Lever } from './registry';

const mostNamed = 3;

/** What a lever holds, in a few words: the values by name, or as its kind sums it up. */
export function positionText(
  lever: Lever,
  position: unknown,
  facts: LeverFacts | undefined,
  words: Vocabulary,
): string {
  const kind = kindOf(lever);
  const values = kind.values?.(position);
  if (!values) return kind.summary(lever, position, facts, words.locale);
  const source = kind.source?.(lever);
  const type = source && words.field(source.field)?.type;
  const names = values.map((value) => keyText(value, words.locale, type, source?.grain));
  return names.length
    ? listed(names, words.locale, mostNamed, names.length)
    : (kind.nothing?.(lever, words.locale) ?? say(words.locale, 'lever.none'));
}
