import { type Colour, isNamedColour, isValueColour, type Look } from '@sorvik/core/board/look';
import type { MutedTone } from '@sorvik/core/board/otherwise';
import { english, type Locale } from '@sorvik/core/messages/locale';
import { cssColour } from '@sorvik/core/pipeline/value-colour';
import type { LegendEntry } from '@sorvik/core/text/legend';
import { whilePassing } from './caption';
import { FrameTask } from './frame-task';
import { paced } from './paced';
import { say } from './say';

/** What answers to pointing at, and choosing, an entry that stands for a series. */
export interface LegendTouch {
  point(series: number): void;
  pick(series: number): void;
}

/** Colours side by side. */
const stripes = (colours: readonly string[]) =>
  `linear-gradient(90deg, ${colours
    .map((colour, i) => `${colour} ${(100 * i) / colours.length}% ${(100 * (i + 1)) / colours.length}%`)
    .join(', ')})`;

/** The swatch of a look: its colours side by side, and its signs. */
function paintSwatch(
  swatch: HTMLElement,
  look: Look | undefined,
  colours: readonly Colour[] | undefined,
): void {
  const colour = colours?.length === 1 ? colours[0] : look?.colour;
  swatch.dataset.look = [
    isNamedColour(colour) && colour,
    look?.outline && 'outline',
    look?.hatch && 'hatch',
    look?.weight,
  ]
    .filter(Boolean)
    .join(' ');
  if (colours && colours.length > 1)
    swatch.style.background = stripes(colours.filter((each) => typeof each === 'string').map(cssColour));
  else if (isValueColour(colour))
    swatch.style.background = stripes([colour.below, colour.above].map(cssColour));
  else if (colour && !isNamedColour(colour)) swatch.style.setProperty('--sv-look', colour);
}

/** More looks than these, with what they mean, are not to be read on one line. */
const mostOnOneLine = 3;

/** The line above a plot that says in words what its looks mean. Names of series in it can be pointed at and chosen. */
export class Legend {
  private shown = '';
  private locale = english;
  private readonly frame = new FrameTask();
  private readonly pace = paced(whilePassing);
  constructor(
    private readonly list: HTMLUListElement,
    private readonly touch: LegendTouch,
  ) {}

  /** `lights`: how many cues light marks. Their line keeps its room while there is nothing to say, so that the plot stays. */
  show(
    entries: () => readonly LegendEntry[],
    { tone, lights, locale }: { tone: MutedTone; lights: number; locale: Locale },
    passing: boolean,
  ): void {
    if (!passing) this.letScroll();
    this.pace(() => {
      const list = entries();
      this.locale = locale;
      const text = JSON.stringify([list, tone, lights, locale.tag]);
      if (text === this.shown) return;
      this.shown = text;
      this.list.hidden = list.length === 0 && lights === 0;
      this.list.dataset.tone = tone;
      const isSeries = ({ series }: LegendEntry) => series !== undefined;
      const items = (wanted: readonly LegendEntry[]) =>
        wanted.map((entry, i) => this.item(entry, wanted[i - 1]?.state !== entry.state));
      const [series, looks] = [list.filter(isSeries), list.filter((entry) => !isSeries(entry))];
      // The series are the same whatever is touched. What is lit has one line, or two where much can be, and never
      // grows by a touch: the plot stays.
      const both = series.length > 0 && (looks.length > 0 || lights > 0);
      this.list.dataset.much = String(looks.length > mostOnOneLine || lights >= mostOnOneLine);
      this.list.dataset.rows = both ? 'both' : series.length ? 'series' : 'looks';
      this.list.replaceChildren(
        ...(both
          ? [this.row('series', items(series)), this.row('looks', items(looks))]
          : items(series.length ? series : looks)),
      );
    }, passing);
  }

  /** Writes nothing more. */
  stop(): void {
    this.pace.cancel();
    this.frame.cancel();
  }

  /** In narrow pages its lines are two, and more are scrolled to: also by the keyboard. Looked at when things rest. */
  private letScroll(): void {
    this.frame.set(() => {
      const lines = this.list.querySelector<HTMLElement>('ul[data-rows="looks"]') ?? this.list;
      if (lines.scrollHeight > lines.clientHeight + 1) lines.tabIndex = 0;
      else lines.removeAttribute('tabindex');
    });
  }

  private row(rows: string, items: readonly HTMLLIElement[]): HTMLLIElement {
    const row = document.createElement('li');
    const list = row.appendChild(document.createElement('ul'));
    list.dataset.rows = rows;
    list.append(...items);
    return row;
  }

  private item({ text, state, look, series, colours }: LegendEntry, says: boolean): HTMLLIElement {
    const item = document.createElement('li');
    const holder = series === undefined ? item : item.appendChild(document.createElement('button'));
    const swatch = document.createElement('span');
    swatch.className = 'sv-key';
    swatch.dataset.shows = state;
    swatch.setAttribute('aria-hidden', 'true');
    paintSwatch(swatch, look, colours);
    // The state is said once for those that follow each other; the colours of series say it themselves.
    const words = series === undefined && says ? say(this.locale, 'legend.state', { state, text }) : text;
    holder.append(swatch, words);
    item.title = words;
    if (series !== undefined && holder instanceof HTMLButtonElement) {
      holder.type = 'button';
      holder.dataset.series = text;
      holder.addEventListener('pointerenter', () => this.touch.point(series));
      holder.addEventListener('pointerleave', () => this.touch.point(-1));
      holder.addEventListener('focus', () => holder.matches(':focus-visible') && this.touch.point(series));
      holder.addEventListener('blur', () => this.touch.point(-1));
      holder.addEventListener('click', () => this.touch.pick(series));
    }
    return item;
  }
}
