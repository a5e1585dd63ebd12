import { catalogueOf } from '@sorvik/core/messages/catalogue';
import english from './messages/en.json';

/** The messages of what is drawn. */
export const viewMessages = catalogueOf(english);
export const { say } = viewMessages;
