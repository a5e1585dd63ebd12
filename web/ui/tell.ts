import '@sorvik/core/messages/desk-english';
import { catalogueOf, type Slots } from '@sorvik/core/messages/catalogue';
import { english } from '@sorvik/core/messages/locale';
import type { ReactNode } from 'react';
import messages from '../messages/bench/en.json';

/** The messages of the pages of authors. They are apart from those of viewers, whose pages need none of them. */
const benchMessages = catalogueOf(messages);
type BenchMessage = keyof typeof messages;

/** What authors read: in English, whatever language their board is in. */
export const tell = (id: BenchMessage, slots?: Slots): string => benchMessages.say(english, id, slots);

/** The same with elements in its slots, such as a link; each has a key. */
export const tellWith = (id: BenchMessage, slots: Readonly<Record<string, ReactNode>>): ReactNode =>
  benchMessages.parts(english, id, slots) as ReactNode[];
