import { titleParts } from '../words/title-parts';

/** A text as Markdown has it that shows just its letters. */
const plainly = (text: string) => text.replace(/[\\`*_{}[\]()#+\-.!|<>~]/g, '\\$&');

/** The Markdown of a note as it reads now: `{lever}` stands for what that lever holds (`heldText`). */
export const noteText = (text: string, held: (lever: string) => string): string =>
  titleParts(text)
    .map((part) => (typeof part === 'string' ? part : plainly(held(part.lever))))
    .join('');
