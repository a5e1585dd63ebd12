import { catalogueOf, type Slots } from '@sorvik/core/messages/catalogue';
import '@sorvik/core/messages/desk-english';
import { english } from '@sorvik/core/messages/locale';
import messages from './messages/en.json';

const serverMessages = catalogueOf(messages);
export type ServerMessage = keyof typeof messages;

/** What the server answers in words: in English. A page that speaks another language goes by the type of a problem. */
export const tell = (id: ServerMessage, slots?: Slots): string => serverMessages.say(english, id, slots);
