import type { ChoiceItem, ChoiceLever } from '@sorvik/core/levers/choice';

/** The items of a choice, with "all" before them where that can be chosen. */
export const withAll = (lever: ChoiceLever, items: ChoiceItem[]): ChoiceItem[] =>
  lever.all ? [{ value: null, label: lever.allText ?? 'all' }, ...items] : items;
