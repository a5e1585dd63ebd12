import { element } from '@sorvik/view/element';

/** Where a slider stands: its value and its ends, how far a step goes, what it is called and what is said of its value. */
export interface RangeStanding {
  value: number;
  min: number;
  max: number;
  step: number;
  label: string;
  text: string;
}

/** A slider with what it says beside it, of what browsers have for that. */
export class RangeRow {
  private readonly input = document.createElement('input');
  private readonly output = document.createElement('output');
  readonly element = element('label', '');

  constructor(moved: (value: number, passing: boolean) => void) {
    const { input, output } = this;
    input.type = 'range';
    // What it says is heard as its value.
    output.setAttribute('aria-hidden', 'true');
    input.addEventListener('input', () => moved(input.valueAsNumber, true));
    input.addEventListener('change', () => moved(input.valueAsNumber, false));
    this.element.append(input, output);
  }

  show({ value, min, max, step, label, text }: RangeStanding): void {
    const { input, output } = this;
    for (const [name, is] of Object.entries({ min, max, step })) input.setAttribute(name, String(is));
    // A browser writes it its own way: what is moved right now is left alone.
    if (input.valueAsNumber !== value) input.value = String(value);
    input.setAttribute('aria-label', label);
    input.setAttribute('aria-valuetext', text);
    output.textContent = text;
  }
}
