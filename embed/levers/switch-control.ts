import type { SwitchLever } from '@sorvik/core/levers/switch';
import { element } from '@sorvik/view/element';
import type { ControlHost, ControlKind, LeverStanding } from './control-kind';

/** On or off, in the author's two words. */
export const switchControl: ControlKind = {
  kind: 'switch',
  tells: true,
  make({ move }: ControlHost<boolean>) {
    const input = document.createElement('input');
    input.type = 'checkbox';
    input.setAttribute('role', 'switch');
    const text = element('span', '');
    const label = element('label', '');
    label.append(input, text);
    input.addEventListener('change', () => move(input.checked));
    return {
      element: label,
      show({ lever, position }: LeverStanding<SwitchLever, boolean>) {
        input.checked = position;
        text.textContent = position ? lever.on : lever.off;
      },
    };
  },
};
