import {
  attributeTexts,
  type PlainPosition,
  plainPosition,
  positionTexts,
} from '@sorvik/core/levers/plain-position';
import { english, type Locale } from '@sorvik/core/messages/locale';
import { element } from '@sorvik/view/element';
import { boardAddress } from './board-address';
import type { BoardSession, SessionChange } from './board-session';
import { SourceProblem } from './board-source';
import { ownColours } from './own-colours';
import { say } from './say';
import { sessionOf } from './sessions';
import { sheet } from './style/sheet';

/** Attributes that are not of levers: a lever that is called as one of them is named with `lever.` before it. */
const ownAttributes = new Set([
  ...['src', 'theme', 'lang', 'height', 'caption', 'for', 'lever'],
  ...[
    'id',
    'class',
    'style',
    'slot',
    'part',
    'hidden',
    'title',
    'dir',
    'tabindex',
    'role',
    'is',
    'exportparts',
  ],
]);
const leverPrefix = 'lever.';
const isOwn = (name: string) => ownAttributes.has(name) || /^(aria|data|on)-?/.test(name);

/** The ground that the viewer's system asks for. */
const darkSystem = () => matchMedia('(prefers-color-scheme: dark)');

/** What a chart and a lever in another page have in common: a board that they follow, its language and its ground. */
export abstract class PartElement extends HTMLElement {
  /** What of it lies in the shadow: the ground, what is said in its place, and what the page has in it until it is there. */
  protected readonly ground = element('div', 'sv-embed');
  private readonly told = element('p', 'sv-embed-told');
  private readonly slotted = document.createElement('slot');
  private readonly attributesChanged = new MutationObserver((records) => this.changed(records));
  private session: BoardSession | null = null;
  private leave = () => {};
  private shadow: ShadowRoot | null = null;
  private readonly followSystem = () => this.dress();
  private readonly dressForPaper = () => this.dress(true);
  /** What attributes have said of levers, and to which session: what is said once more by moving the element is not said anew. */
  private readonly saidBefore = new Map<string, string>();
  private saidTo: BoardSession | null = null;
  /** What code has said of levers before there was a board to say it to. */
  private waiting: Readonly<Record<string, PlainPosition>> = {};

  connectedCallback(): void {
    this.takeProperties('positions');
    if (!this.shadow) {
      this.shadow = this.attachShadow({ mode: 'open' });
      this.shadow.adoptedStyleSheets = [sheet()];
      this.told.setAttribute('part', 'message');
      this.told.setAttribute('role', 'status');
      this.told.hidden = true;
      this.ground.hidden = true;
      this.shadow.append(this.slotted, this.told, this.ground);
    }
    this.dress();
    darkSystem().addEventListener('change', this.followSystem);
    addEventListener('beforeprint', this.dressForPaper);
    addEventListener('afterprint', this.followSystem);
    this.attributesChanged.observe(this, { attributes: true });
    this.begin();
  }

  disconnectedCallback(): void {
    this.attributesChanged.disconnect();
    darkSystem().removeEventListener('change', this.followSystem);
    removeEventListener('beforeprint', this.dressForPaper);
    removeEventListener('afterprint', this.followSystem);
    this.end();
  }

  /** Where the levers of its board stand, by their ids; empty while it is not there. */
  get positions(): Record<string, PlainPosition> {
    const { session } = this;
    const board = session?.ready?.board;
    if (!session || !board) return {};
    const seen = board.levers.filter(({ hidden }) => !hidden);
    return Object.fromEntries(seen.map((lever) => [lever.id, plainPosition(lever, session.standing(lever))]));
  }

  /** Moves levers of its board: those that are named. */
  set positions(said: Readonly<Record<string, PlainPosition>>) {
    if (!this.session) this.waiting = { ...this.waiting, ...said };
    for (const [lever, position] of Object.entries(said)) this.session?.say(lever, positionTexts(position));
  }

  /** Takes over what was set on the element before it was known what it is. */
  protected takeProperties(...names: string[]): void {
    for (const name of names) {
      if (!Object.hasOwn(this, name)) continue;
      const value: unknown = Reflect.get(this, name);
      Reflect.deleteProperty(this, name);
      Reflect.set(this, name, value);
    }
  }

  protected get locale(): Locale {
    return this.session?.ready?.locale ?? english;
  }

  protected get followed(): BoardSession | null {
    return this.session;
  }

  /** The chart or the lever of the board that it is. */
  protected abstract readonly partId: string;
  /** Shows what there is now: all of it, or where levers have moved. */
  protected abstract show(session: BoardSession, change: SessionChange): void;
  /** Takes away what it shows. */
  protected abstract clear(): void;
  /** The session that it follows besides one of an address; null where there is none. */
  protected ownSession(): BoardSession | null {
    return null;
  }

  /** Begins anew: another board is meant. */
  protected restart(): void {
    if (!this.isConnected) return;
    this.end();
    this.begin();
  }

  /** Says something in its place; null: it is there. */
  protected tell(text: string | null): void {
    this.told.hidden = text === null;
    this.told.textContent = text ?? '';
    // What the page has in it stays until there is something better.
    this.slotted.hidden = text === null;
    this.ground.hidden = text !== null;
  }

  /** A gesture of the viewer has moved a lever. */
  protected movedByHand(lever: string, position: unknown, passing: boolean): void {
    const { session } = this;
    const spec = session?.ready?.board.levers.find(({ id }) => id === lever);
    if (!session || !spec) return;
    session.move(lever, position, passing);
    const detail = {
      lever,
      position: plainPosition(spec, session.standing(spec)),
      positions: this.positions,
      passing,
    };
    this.dispatchEvent(new CustomEvent('sorvik:move', { detail, bubbles: true, composed: true }));
  }

  private begin(): void {
    const src = this.getAttribute('src');
    const address = src === null ? null : boardAddress(src, document.baseURI);
    const lang = this.getAttribute('lang') ?? undefined;
    let session: BoardSession | null;
    try {
      session = this.ownSession() ?? (address && sessionOf(address, lang));
    } catch (error) {
      this.fail(error);
      return;
    }
    this.session = session;
    if (!session) {
      this.tell(src === null ? null : say(this.locale, 'embed.address.none'));
      this.slotted.hidden = false;
      this.ground.hidden = true;
      return;
    }
    session.speak(lang);
    if (this.saidTo !== session) this.saidBefore.clear();
    this.saidTo = session;
    for (const { name, value } of this.attributes)
      if (this.saidBefore.get(name) !== value) this.sayAttribute(name, value);
    const { waiting } = this;
    this.waiting = {};
    this.positions = waiting;
    this.leave = session.listen((change) => this.heard(change));
    if (session.ready) this.heard({ kind: 'board' });
  }

  private end(): void {
    this.leave();
    this.leave = () => {};
    this.session = null;
    this.clear();
  }

  private heard(change: SessionChange): void {
    const { session } = this;
    if (!session) return;
    if (session.problem && !session.ready) {
      this.clear();
      this.tell(session.problem.text(this.locale));
      return;
    }
    if (!session.ready) return;
    try {
      this.show(session, change);
    } catch (error) {
      this.fail(error);
    }
  }

  /** Says why there is nothing to see. */
  protected fail(error: unknown): void {
    const problem =
      error instanceof SourceProblem
        ? error
        : new SourceProblem('embed.problem.other', { why: String((error as Error).message ?? error) });
    this.tell(problem.text(this.locale));
  }

  private changed(records: readonly MutationRecord[]): void {
    const names = new Set(records.map(({ attributeName }) => attributeName!));
    if (names.has('theme')) this.dress();
    if (['src', 'for', 'lever', 'lang'].some((name) => names.has(name))) {
      this.restart();
      return;
    }
    for (const name of names) {
      const value = this.getAttribute(name);
      if (value !== null) this.sayAttribute(name, value);
    }
    if (['height', 'caption'].some((name) => names.has(name)) && this.session?.ready)
      this.heard({ kind: 'board' });
  }

  private sayAttribute(name: string, value: string): void {
    this.saidBefore.set(name, value);
    if (name.startsWith(leverPrefix))
      this.session?.say(name.slice(leverPrefix.length), attributeTexts(value));
    else if (!isOwn(name)) this.session?.say(name, attributeTexts(value));
  }

  /** Puts on the colours of its ground. Paper is light, whatever the screen is. */
  private dress(onPaper = false): void {
    const wanted = onPaper ? 'light' : this.getAttribute('theme');
    const dark = wanted === 'dark' || (wanted !== 'light' && darkSystem().matches);
    this.ground.dataset.bsTheme = dark ? 'dark' : 'light';
    ownColours(this, this.ground, this.locale);
  }
}
