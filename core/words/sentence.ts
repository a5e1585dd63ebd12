import type { LeverAbility } from '../board/lever-ability';
import { type DeskMessage, tellParts } from '../messages/desk';

/** One of several texts a word can be. */
export interface WordOption {
  value: unknown;
  text: string;
  note?: string;
}

/** A word of a sentence that opens an editor. `slot` names the editor, `value` is what it edits. */
export interface Word {
  slot: string;
  text: string;
  value?: unknown;
  /** What is being chosen, for the editor's name; left out, the editor's own. */
  label?: string;
  /** Where the value stands in the part of the chart that the sentence speaks of. */
  path?: (string | number)[];
  /** For a word that is one of several. */
  options?: WordOption[];
  /** For a word that can name a lever: what the lever must be able to do. */
  ability?: LeverAbility;
}

export type Part = string | Word;

/** A sentence, or a piece of one: words that open editors, texts and other pieces stand in its slots. */
export const sentenceParts = (
  id: DeskMessage,
  slots: Readonly<Record<string, string | number | Part | readonly Part[]>>,
): Part[] => tellParts(id, slots) as Part[];

/** One line of a chart's description. */
export interface Sentence {
  /** Stable within its chart, so that an editor stays open while its sentence changes. */
  id: string;
  parts: Part[];
  /** The levers it speaks of: pointing at the sentence outlines them. */
  levers: string[];
  /** What it says that cannot be done, and why. */
  problem?: string;
  /** It is switched off: it says what would be. */
  off?: true;
  /** What is to be known of it besides. */
  note?: string;
  /** The part of the chart it speaks of and can be removed with, as a path: `['cues', 0]`. The first sentence stays. */
  part?: (string | number)[];
}

/** The sentence as text; words that only open an editor to say more are left out. */
export const sentenceText = (sentence: Sentence) =>
  sentence.parts
    .map((part) => (typeof part === 'string' ? part : part.slot === 'join' ? '' : part.text))
    .join('');

/** Parts whose words stand under a place of the whole. */
export const under = (path: (string | number)[], parts: readonly Part[]): Part[] =>
  parts.map((part) =>
    typeof part === 'string' || !part.path ? part : { ...part, path: [...path, ...part.path] },
  );

/** A word that is one of several texts. */
export const optionWord = (
  label: string,
  path: (string | number)[],
  value: unknown,
  options: WordOption[],
): Word => ({
  slot: 'option',
  label,
  path,
  value,
  options,
  text: options.find((option) => option.value === value)?.text ?? String(value),
});
