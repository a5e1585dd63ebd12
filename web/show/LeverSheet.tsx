import type { Board } from '@sorvik/core/board/board';
import { kindOf, type Lever } from '@sorvik/core/levers/registry';
import { leverReach } from '@sorvik/core/text/lever-reach';
import { useEffect, useRef, useState } from 'react';
import { LeverGroup, useLever } from '../levers/LeverGroup';
import { useLanguage } from '../ui/language';

/** So much of a chart has to be seen for it to be left where it is, px. */
const enough = 160;

const plotOf = (figure: HTMLElement) => figure.querySelector('.sv-plot') ?? figure;

/** Brings a chart that a lever moves into the room above the sheet, unless one is there already. */
function showReached(board: Board, lever: string, sheet: HTMLElement): void {
  const floor = sheet.getBoundingClientRect().top;
  const figures = leverReach(board, lever).flatMap(({ chart }) => {
    const figure = document.querySelector<HTMLElement>(`[data-chart="${CSS.escape(chart)}"]`);
    return figure ? [figure] : [];
  });
  const isSeen = (figure: HTMLElement) => {
    const { top, bottom } = plotOf(figure).getBoundingClientRect();
    return Math.min(bottom, floor) - Math.max(top, 0) >= enough;
  };
  const [first] = figures;
  if (!first || figures.some(isSeen)) return;
  first.scrollIntoView({ block: 'start' });
  // What stands above its plot may take too much of the room.
  if (!isSeen(first)) plotOf(first).scrollIntoView({ block: 'start' });
}

function LeverTab({ lever, open, onOpen }: { lever: Lever; open: boolean; onOpen(): void }) {
  const { locale, say } = useLanguage();
  const { position, facts, moved } = useLever(lever);
  const text = kindOf(lever).summary(lever, position, facts, locale);
  return (
    <button type="button" aria-expanded={open} onClick={onOpen}>
      <span className="sv-lever-name" data-part="lever-name">
        {lever.name}
        {moved && <span className="sv-moved" role="img" aria-label={say('lever.moved')} />}
      </span>
      <span className="sv-lever-summary">{text}</span>
    </button>
  );
}

/**
 * The levers where there is one column: a row of them at the thumb, each with its position; the one that is pressed
 * opens above the row, and a chart that it moves stays in sight.
 */
export function LeverSheet({ board, levers }: { board: Board; levers: readonly Lever[] }) {
  const { say } = useLanguage();
  const [openId, setOpenId] = useState<string | null>(null);
  const lever = levers.find(({ id }) => id === openId);
  const sheet = useRef<HTMLDivElement>(null);
  const shown = useRef(board);
  shown.current = board;
  useEffect(() => {
    if (!openId) return;
    // Once it has its height; afterwards the page is the viewer's to scroll.
    const due = requestAnimationFrame(
      () => sheet.current && showReached(shown.current, openId, sheet.current),
    );
    return () => cancelAnimationFrame(due);
  }, [openId]);
  return (
    <section
      className="sv-lever-sheet"
      data-part="levers"
      aria-label={say('show.levers')}
      id="sv-levers"
      tabIndex={-1}
    >
      {lever && (
        <div className="sv-lever-sheet-open" key={lever.id} ref={sheet}>
          <LeverGroup lever={lever} />
        </div>
      )}
      <div className="sv-lever-sheet-row">
        {levers.map((each) => (
          <LeverTab
            key={each.id}
            lever={each}
            open={each.id === openId}
            onOpen={() => setOpenId(each.id === openId ? null : each.id)}
          />
        ))}
      </div>
    </section>
  );
}
