import { catalogueOf } from './catalogue';
import english from './en.json';
import type { Locale } from './locale';

/** The messages of the core. */
export const coreMessages = catalogueOf(english);
export const say = coreMessages.say;
export type CoreMessage = keyof typeof english;

/** What is to be said, once it is known in which language. */
export type Saying = (locale: Locale) => string;
