import { fieldOf } from '@sorvik/core/data/dataset';
import type { KeyValue } from '@sorvik/core/data/values';
import { listOf, staysOnServer } from '@sorvik/core/levers/listed';
import type { PickLever } from '@sorvik/core/levers/pick';
import { type PickPosition, toggled } from '@sorvik/core/levers/pick-moves';
import { keyText } from '@sorvik/core/words/key-text';
import { element } from '@sorvik/view/element';
import { say } from '../say';
import type { ControlHost, ControlKind, LeverControl, LeverStanding } from './control-kind';

/** Longer lists are searched; so many are shown of what is found. */
const fewValues = 12;
const mostShown = 200;

type Standing = LeverStanding<PickLever, PickPosition>;

/** A list of values to pick from, those that are picked first; long ones with a search. */
class PickList implements LeverControl {
  private readonly search = document.createElement('input');
  private readonly list = element('ul', 'sv-embed-list');
  private readonly more = element('p', '');
  private readonly nothing = element('button', '');
  readonly element = element('div', '', this.search, this.list, this.more, this.nothing);
  private now!: Standing;
  private boxes = new Map<KeyValue, HTMLInputElement>();
  private listed: unknown = null;
  private round = 0;

  constructor(private readonly host: ControlHost<PickPosition>) {
    const { search, nothing, more } = this;
    search.type = 'search';
    search.addEventListener('input', () => void this.fill());
    nothing.type = 'button';
    nothing.textContent = say(host.locale, 'embed.lever.nothing');
    nothing.addEventListener('click', () => host.move([]));
    more.hidden = true;
  }

  show(standing: Standing): void {
    this.now = standing;
    const { facts, lever, position } = standing;
    const of = facts?.cube ?? facts?.dataset ?? null;
    if (this.listed !== of) {
      this.listed = of;
      this.search.setAttribute(
        'aria-label',
        say(this.host.locale, 'embed.lever.search', { lever: lever.name }),
      );
      this.search.placeholder = say(this.host.locale, 'embed.lever.search', { lever: lever.name });
      void this.fill();
    }
    const held = new Set(position);
    for (const [value, box] of this.boxes) box.checked = held.has(value);
    this.nothing.hidden = !position.length;
  }

  /** Lists what the search finds. */
  private async fill(): Promise<void> {
    const { lever, facts, position } = this.now;
    const round = ++this.round;
    const text = (value: KeyValue) =>
      keyText(value, this.host.locale, facts && fieldOf(facts.dataset, lever.field)?.type, lever.grain);
    const wanted = this.search.value.trim().toLocaleLowerCase();
    let values: KeyValue[];
    let found: number;
    if (facts && staysOnServer(facts.dataset, lever)) {
      const answer = await this.host.search(facts.dataset, lever.field, wanted).catch(() => null);
      if (!answer || round !== this.round) return;
      values = [...new Set([...(wanted ? [] : position), ...answer.values])];
      found = answer.found;
      this.search.hidden = false;
    } else {
      const all = (listOf(facts, lever) ?? []).map(({ value }) => value);
      const matching = wanted ? all.filter((value) => text(value).toLocaleLowerCase().includes(wanted)) : all;
      values = matching.slice(0, mostShown);
      found = matching.length;
      this.search.hidden = all.length <= fewValues;
    }
    this.boxes = new Map();
    this.list.replaceChildren(...values.map((value) => this.row(value, text(value))));
    this.more.hidden = found <= values.length;
    this.more.textContent = say(this.host.locale, 'embed.lever.more', { n: found - values.length });
    this.show(this.now);
  }

  private row(value: KeyValue, text: string): HTMLElement {
    const box = document.createElement('input');
    box.type = 'checkbox';
    box.addEventListener('change', () => this.host.move(toggled(this.now.position, value)));
    this.boxes.set(value, box);
    const label = element('label', '');
    label.append(box, text);
    return element('li', '', label);
  }
}

/** A list to pick from. */
export const pickControl: ControlKind = { kind: 'pick', make: (host) => new PickList(host) };
