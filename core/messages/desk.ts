import { catalogueOf, type Messages, type Slots } from './catalogue';
import type messages from './desk/en.json';
import { english } from './locale';

export type DeskMessage = keyof typeof messages;

let desk: ReturnType<typeof catalogueOf<DeskMessage>> | null = null;

/**
 * Takes in what authors read of charts: sentences, offers, what is wrong with a document or a formula. The pages of
 * authors and the server do so (`desk-english.ts`); a show says none of it, and carries none of it.
 */
export const learnDesk = (known: Messages<DeskMessage>): void => {
  desk = catalogueOf(known);
};

/** Whether what authors read is here: a show has none of it, and says only that something is wrong. */
export const hasLearned = (): boolean => desk !== null;

/** What authors read: in English, whatever language their board is in. The id itself, while nothing is learned. */
export const tell = (id: DeskMessage, slots?: Slots): string => desk?.say(english, id, slots) ?? id;

/** The same with things other than texts in its slots: texts and things in their order. Lists are taken apart. */
export const tellParts = (id: DeskMessage, slots: Readonly<Record<string, unknown>>): unknown[] =>
  (desk?.parts(english, id, slots) ?? [id]).flat();
