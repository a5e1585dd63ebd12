import { type ChoiceLever, type ChoicePosition, choice, choiceItems } from '@sorvik/core/levers/choice';
import type { ControlHost, ControlKind, LeverStanding } from './control-kind';

/** One of a list. */
export const choiceControl: ControlKind = {
  kind: 'choice',
  tells: true,
  make({ locale, move }: ControlHost<ChoicePosition>) {
    const select = document.createElement('select');
    let values: ChoicePosition[] = [];
    let listed = '';
    select.addEventListener('change', () => move(values[select.selectedIndex]!));
    return {
      element: select,
      show({ lever, position, facts }: LeverStanding<ChoiceLever, ChoicePosition>) {
        const items = choiceItems(lever, facts, locale) ?? [];
        const all = lever.all ? [{ value: null, label: choice.nothing!(lever, locale) }, ...items] : items;
        const names = JSON.stringify(all);
        if (names !== listed) {
          listed = names;
          values = all.map(({ value }) => value);
          select.replaceChildren(...all.map(({ label }) => new Option(label)));
          select.setAttribute('aria-label', lever.name);
        }
        select.selectedIndex = values.indexOf(position);
      },
    };
  },
};
