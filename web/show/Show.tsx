import { skipToken } from '@reduxjs/toolkit/query/react';
import type { Board } from '@sorvik/core/board/board';
import { laidOut } from '@sorvik/core/board/items';
import type { Lever } from '@sorvik/core/levers/registry';
import { isAtStart } from '@sorvik/core/levers/settled-positions';
import { english } from '@sorvik/core/messages/locale';
import { lazy, Suspense, useCallback, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { problemText, useBoardQuery, useShownBoardQuery } from '../app/api';
import { useAppDispatch, useAppSelector } from '../app/store';
import { useBoardGround } from '../app/theme';
import { visit } from '../app/visit';
import { Announcer } from '../board/Announcer';
import { DataStamp } from '../board/DataStamp';
import { gridStyle } from '../board/grid';
import { leversReset } from '../board/positions-slice';
import { useLarge } from '../board/use-large';
import { useLive } from '../board/use-live';
import { usePositionAddress } from '../board/use-position-address';
import { ChartFigure } from '../chart/ChartFigure';
import { FactsContext, useKnownFacts } from '../levers/facts-context';
import { LeverGroup } from '../levers/LeverGroup';
import { LeverRows } from '../levers/LeverRows';
import { useClocks } from '../levers/use-clocks';
import { useFacts } from '../levers/use-facts';
import { Guard } from '../ui/Guard';
import { LocaleContext, useDocumentLanguage, useLanguage, useLocaleOf } from '../ui/language';
import { SkipLinks } from '../ui/SkipLinks';
import { say, type WebMessage } from '../ui/say';
import { oneColumn, useMedia } from '../ui/use-media';
import './around';
import { useTakeOver } from './drawn-page';
import { LeverSheet } from './LeverSheet';
import { PrintFoot } from './PrintFoot';
import { useKeptRoom } from './use-kept-room';

const NoteText = lazy(() => import('../board/NoteText'));
const Embedded = lazy(() => import('./Embedded').then((module) => ({ default: module.Embedded })));
const EmbeddedProblem = lazy(() =>
  import('./Embedded').then((module) => ({ default: module.EmbeddedProblem })),
);
const Moments = lazy(() => import('./Moments').then((module) => ({ default: module.Moments })));
const Notices = lazy(() => import('../ui/Notices').then((module) => ({ default: module.Notices })));

/** A board in the language that the page around a frame wants. */
const inLanguage = (board: Board): Board => (visit.lang === null ? board : { ...board, locale: visit.lang });

/** Puts every lever back to its start, once one has been moved. */
function ResetAll({ levers }: { levers: Lever[] }) {
  const { say } = useLanguage();
  const dispatch = useAppDispatch();
  const { facts } = useKnownFacts();
  const moved = useAppSelector((state) =>
    levers.some((lever) => !isAtStart(lever, state.positions.now, facts)),
  );
  return (
    <button
      type="button"
      className="btn btn-sm btn-outline-secondary sv-reset-all"
      disabled={!moved}
      onClick={() => dispatch(leversReset(levers.map(({ id }) => id)))}
    >
      {say('show.resetAll')}
    </button>
  );
}

/** Copies the address of what is seen, with its levers where they stand. */
function CopyAddress() {
  const { say } = useLanguage();
  const [copied, setCopied] = useState(false);
  return (
    <button
      type="button"
      className="btn btn-sm btn-quiet sv-copy-address"
      onClick={() => void navigator.clipboard.writeText(location.href).then(() => setCopied(true))}
    >
      {say(copied ? 'show.copied' : 'show.copyLink')}
    </button>
  );
}

/** Tells the theme how high what lies at the foot of the page is: an enlarged chart ends above it. */
function useFootHeight(): (foot: HTMLElement | null) => (() => void) | undefined {
  return useCallback((foot) => {
    if (!foot) return undefined;
    const sizes = new ResizeObserver(() =>
      document.documentElement.style.setProperty('--sv-foot', `${foot.offsetHeight}px`),
    );
    sizes.observe(foot);
    return () => sizes.disconnect();
  }, []);
}

/** What a viewer sees: levers and charts, and nothing of the machinery. */
export function Show({ draft = false }: { draft?: boolean }) {
  const { id = '' } = useParams();
  const published = useShownBoardQuery(draft ? skipToken : id);
  const written = useBoardQuery(draft ? id : skipToken);
  const { data, error } = draft ? written : published;
  const board = useMemo(() => data && inLanguage(data.document), [data]);
  const locale = useLocaleOf(board?.locale);
  useDocumentLanguage(locale);
  useBoardGround(board?.ground);
  const { large, enlarge } = useLarge();
  const hasSheet = useMedia(oneColumn) && !visit.embedded;
  const foot = useFootHeight();
  const told = useAppSelector((state) => state.notices.length > 0);
  const known = useFacts(board?.levers, board?.charts, locale);
  usePositionAddress({ boardId: board ? id : null, levers: board?.levers, facts: known.facts, steps: true });
  useClocks(board?.levers);
  useLive(board);
  useTakeOver(board, error !== undefined);
  useKeptRoom(id, draft ? undefined : board);
  if (error)
    return (
      <main className="sv-page">
        <h1>{say(english, 'show.cannot')}</h1>
        <p>{problemText(error)}</p>
        {visit.embedded ? (
          <Suspense fallback={null}>
            <EmbeddedProblem text={problemText(error)} />
          </Suspense>
        ) : (
          <Link to="/">{say(english, 'show.allBoards')}</Link>
        )}
      </main>
    );
  if (!board || !locale) return <p className="sv-loading">{say(english, 'loading')}</p>;
  const tell = (id: WebMessage) => say(locale, id);
  const seen = board.levers.filter((lever) => !lever.hidden);
  const standing = seen.filter((lever) => lever.place !== 'title');
  const above = hasSheet ? [] : standing.filter((lever) => lever.place === 'above');
  const beside = hasSheet ? [] : standing.filter((lever) => lever.place !== 'above');
  const render = (lever: Lever) => <LeverGroup lever={lever} />;
  return (
    <LocaleContext value={locale}>
      <FactsContext value={known}>
        <main
          className={['sv-show', large && 'has-large', visit.embedded && 'is-embedded']
            .filter(Boolean)
            .join(' ')}
        >
          <title>{`${board.title} · Sorvik`}</title>
          <SkipLinks
            to={[
              ...(above.length ? [{ id: 'sv-levers-above', text: tell('skip.leversAbove') }] : []),
              ...(beside.length || (hasSheet && standing.length)
                ? [{ id: 'sv-levers', text: tell('skip.levers') }]
                : []),
              { id: 'sv-charts', text: tell('skip.charts') },
            ]}
          />
          <header className="sv-show-head">
            <div>
              <h1 dir="auto">{board.title}</h1>
              {board.subtitle && <p dir="auto">{board.subtitle}</p>}
              <DataStamp board={board} locale={locale} />
            </div>
            {draft && <p className="sv-draft-note">{tell('show.draft')}</p>}
            <div className="sv-row">
              {!draft && !visit.embedded && <CopyAddress />}
              {seen.length > 0 && <ResetAll levers={seen} />}
            </div>
          </header>
          {above.length > 0 && (
            <section
              className="sv-levers is-row"
              data-part="levers"
              aria-label={tell('show.leversAbove')}
              id="sv-levers-above"
              tabIndex={-1}
            >
              <LeverRows levers={above} render={render} />
            </section>
          )}
          <div className="sv-show-body">
            {beside.length > 0 && (
              <aside
                className="sv-levers"
                data-part="levers"
                aria-label={tell('show.levers')}
                id="sv-levers"
                tabIndex={-1}
              >
                <LeverRows levers={beside} render={render} />
              </aside>
            )}
            <div className="sv-charts" id="sv-charts" tabIndex={-1}>
              {laidOut(board).map(({ item, place }) => (
                <div
                  data-part="cell"
                  className={`sv-cell${item.id === large ? ' is-large' : ''}${'note' in item ? ' is-note' : ''}`}
                  style={gridStyle(place)}
                  key={item.id}
                >
                  {'note' in item ? (
                    <Suspense fallback={null}>
                      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a long note scrolls, by the keyboard too */}
                      <article className="sv-note" data-part="note" tabIndex={0}>
                        <NoteText board={board} text={item.note.text} />
                      </article>
                    </Suspense>
                  ) : (
                    <Guard what={tell('show.thisChart')} locale={locale}>
                      <ChartFigure
                        board={board}
                        chart={item.chart}
                        viewed
                        large={item.id === large}
                        onEnlarge={enlarge}
                      />
                    </Guard>
                  )}
                </div>
              ))}
            </div>
          </div>
          <Announcer board={board} within="#sv-charts" />
          <PrintFoot board={board} />
          {visit.embedded && (
            <Suspense fallback={null}>
              <Embedded board={board} />
            </Suspense>
          )}
          <div className="sv-show-foot" ref={foot}>
            {hasSheet && standing.length > 0 && <LeverSheet board={board} levers={standing} />}
            {board.moments && board.moments.length > 0 && (
              <Suspense fallback={null}>
                <Moments levers={board.levers} moments={board.moments} />
              </Suspense>
            )}
          </div>
          {told && (
            <Suspense fallback={null}>
              <Notices />
            </Suspense>
          )}
        </main>
      </FactsContext>
    </LocaleContext>
  );
}
