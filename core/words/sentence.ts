/** A word of a sentence that opens an editor. `slot` names the editor, `value` is what it edits. */
export interface Word {
  slot: string;
  text: string;
  value?: unknown;
}

export type Part = string | Word;

/** One line of a chart's description. */
export interface Sentence {
  /** Stable within its chart, so that an editor stays open while its sentence changes. */
  id: string;
  parts: Part[];
  /** The levers it speaks of: pointing at the sentence outlines them. */
  levers: string[];
  /** What it says that cannot be done, and why. */
  problem?: string;
  /** The part of the chart it can be removed with; the first sentence stays. */
  part?: { list: 'cues' | 'guides' | 'touches'; index: number };
}

export const sentenceText = (sentence: Sentence) =>
  sentence.parts.map((part) => (typeof part === 'string' ? part : part.text)).join('');
