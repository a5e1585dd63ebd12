import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { settledPosition } from '@sorvik/core/levers/settled-positions';
import { element } from '@sorvik/view/element';
import { boardAddress } from './board-address';
import { type BoardSession, type SessionChange, shownLever } from './board-session';
import { SourceProblem } from './board-source';
import type { LeverControl } from './levers/control-kind';
import { knownSessionOf, ownSessionBegun } from './own-data/own-session';
import { PartElement } from './part-element';

/** `<sorvik-lever>`: a lever of a board, which moves all charts of that board on the page. */
export class LeverElement extends PartElement {
  private readonly heading = element('span', 'sv-embed-name');
  private readonly holds = element('span', 'sv-embed-holds');
  private readonly notice = element('p', 'sv-embed-notice');
  private readonly group = element('div', 'sv-embed-lever', this.holds, this.heading);
  private control: LeverControl | null = null;
  /** What its control was made for. */
  private made = '';
  /** Its control says itself where it stands. */
  private tells = false;
  private readonly again = () => this.restart();
  private near: Element | null = null;

  constructor() {
    super();
    this.heading.setAttribute('part', 'name');
    this.holds.setAttribute('part', 'holds');
    this.notice.setAttribute('role', 'status');
    this.notice.hidden = true;
    this.group.setAttribute('role', 'group');
    this.ground.append(this.group);
  }

  override disconnectedCallback(): void {
    super.disconnectedCallback();
    this.leaveNear();
  }

  protected get partId(): string {
    const address = boardAddress(this.getAttribute('src') ?? '', document.baseURI);
    return address?.part || (this.getAttribute('lever') ?? '');
  }

  /** That of the chart with rows of its own that it is for. */
  protected override ownSession(): BoardSession | null {
    const id = this.getAttribute('for');
    this.leaveNear();
    if (id === null) return null;
    const chart = (this.getRootNode() as Document | ShadowRoot).getElementById(id);
    if (!chart) return null;
    this.near = chart;
    chart.addEventListener(ownSessionBegun, this.again);
    return knownSessionOf(chart) ?? null;
  }

  protected clear(): void {
    this.control?.element.remove();
    this.control = null;
  }

  protected show(session: BoardSession, { kind: what }: SessionChange): void {
    const { board, facts, locale } = session.ready!;
    const lever = shownLever(board, this.partId);
    if (!lever) {
      const levers = board.levers.filter(({ hidden }) => !hidden).map(({ id }) => id);
      throw new SourceProblem('embed.lever.none', { lever: this.partId, levers: levers.join(', ') });
    }
    // Whoever is moving it keeps hold of it while rows change.
    const made = JSON.stringify([lever, locale.tag]);
    if (what === 'board' && made !== this.made) this.clear();
    this.made = made;
    if (!this.control) {
      void this.equip(session, lever);
      return;
    }
    const { position, notice } = settledPosition(lever, session.positions, facts);
    this.holds.textContent = this.tells
      ? ''
      : kindOf(lever).summary(lever, position, facts[lever.id], locale);
    this.notice.hidden = !notice;
    this.notice.textContent = notice?.(locale) ?? '';
    this.control.show({ lever, position, facts: facts[lever.id] });
  }

  /** Controls are fetched with the first lever of a page. */
  private async equip(session: BoardSession, lever: Lever): Promise<void> {
    const { controlKinds } = await import('./levers/registry');
    const { ready } = session;
    if (this.followed !== session || !ready || this.control) return;
    const kind = controlKinds.get(lever.kind);
    this.tells = kind.tells === true;
    this.control = kind.make({
      locale: ready.locale,
      move: (position, passing = false) => this.movedByHand(lever.id, position, passing),
      search: (dataset, field, text) => session.source.values(dataset, field, text),
    });
    const { element: control } = this.control;
    control.setAttribute('part', 'control');
    this.heading.textContent = lever.name;
    this.group.setAttribute('aria-label', lever.name);
    this.group.append(control, this.notice);
    this.tell(null);
    this.show(session, { kind: 'moved', passing: false });
  }

  private leaveNear(): void {
    this.near?.removeEventListener(ownSessionBegun, this.again);
    this.near = null;
  }
}
