import { catalogueOf } from '@sorvik/core/messages/catalogue';
import english from '../messages/en.json';

/** The messages of the pages that viewers see. */
export const webMessages = catalogueOf(english);
export const { say } = webMessages;
export type WebMessage = keyof typeof english;
