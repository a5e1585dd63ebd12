import type { Board } from '@sorvik/core/board/board';
import { usualLocale } from '@sorvik/core/messages/locale';
import { edit } from '../board/board-slice';
import { tell } from '../ui/tell';

/** The board on a ground of its own for viewers; undefined for that of their device. */
export const onGround = (ground: Board['ground']) =>
  edit(tell('bench.boardSettings.theTheme'), (draft) => {
    if (ground) draft.ground = ground;
    else delete draft.ground;
  });

/** The board in another language for viewers. */
export const inLanguage = (locale: string) =>
  edit(tell('bench.boardSettings.theLanguage'), (draft) => {
    if (locale === usualLocale) delete draft.locale;
    else draft.locale = locale;
  });
