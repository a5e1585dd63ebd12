import { type ChoiceItem, type ChoiceLever, choice } from '@sorvik/core/levers/choice';
import type { Locale } from '@sorvik/core/messages/locale';

/** The items of a choice, with "all" before them where that can be chosen. */
export const withAll = (lever: ChoiceLever, items: ChoiceItem[], locale: Locale): ChoiceItem[] =>
  lever.all ? [{ value: null, label: choice.nothing!(lever, locale) }, ...items] : items;
