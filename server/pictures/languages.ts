// What pictures are written in: all languages, as there is no page to fetch one when it is wanted.
import '@sorvik/core/messages/desk-english';
import coreGerman from '@sorvik/core/messages/de.json';
import { coreMessages } from '@sorvik/core/messages/say';
import viewGerman from '@sorvik/view/messages/de.json';
import { viewMessages } from '@sorvik/view/say';

coreMessages.learn('de', coreGerman);
viewMessages.learn('de', viewGerman);
