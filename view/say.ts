import { catalogueOf } from '@sorvik/core/words/catalogue';
import english from './messages/en.json';

/** The messages of what is drawn. */
export const viewMessages = catalogueOf(english);
export const { say } = viewMessages;
