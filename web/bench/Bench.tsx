import { chartOf, datasetsOf, leverOf } from '@sorvik/core/board/board';
import { itemsOf } from '@sorvik/core/board/items';
import { firstChart } from '@sorvik/core/edit/defaults';
import { positionsToQuery } from '@sorvik/core/levers/positions';
import { english } from '@sorvik/core/messages/locale';
import { leverReach } from '@sorvik/core/text/lever-reach';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { problemText, useBoardQuery, useDatasetQuery } from '../app/api';
import { useDatasetsQuery } from '../app/editing-api';
import { useAppDispatch, useAppSelector, useAppStore } from '../app/store';
import { Announcer } from '../board/Announcer';
import { startAutosave } from '../board/autosave';
import {
  boardClosed,
  boardOpened,
  chartChosen,
  edit,
  noticeClosed,
  redo,
  stepsFound,
  undo,
} from '../board/board-slice';
import { DataStamp } from '../board/DataStamp';
import { keepSteps, stepsTo } from '../board/kept-steps';
import { useLarge } from '../board/use-large';
import { useLive } from '../board/use-live';
import { usePositionAddress } from '../board/use-position-address';
import { FactsContext } from '../levers/facts-context';
import { useClocks } from '../levers/use-clocks';
import { useFacts } from '../levers/use-facts';
import { ShareButton } from '../people/Share';
import { Explained } from '../ui/Explained';
import { InlineText } from '../ui/InlineText';
import { InLanguage, useLocaleOf } from '../ui/language';
import { Notices } from '../ui/Notices';
import { SkipLinks } from '../ui/SkipLinks';
import { TopBar } from '../ui/TopBar';
import { tell } from '../ui/tell';
import { AddLever } from './AddLever';
import { BoardMenu } from './BoardMenu';
import { Charts } from './Charts';
import { ConflictBar } from './ConflictBar';
import { Doubts } from './Doubts';
import { FootTools } from './FootTools';
import { Keys } from './Keys';
import { LeverCard } from './LeverCard';
import { LeverColumn } from './LeverColumn';
import { MomentList } from './MomentList';
import { Others, useAuthors } from './Others';
import { Palette } from './Palette';
import { Publish } from './Publish';
import { SaveState } from './SaveState';
import { ScratchBar } from './ScratchBar';
import { SelectedBar } from './SelectedBar';
import { SentenceDesk } from './SentenceDesk';
import { boardActions, useBenchKeys } from './use-actions';
import { useClipboard } from './use-clipboard';
import { useMoveSteps } from './use-move-steps';
import { Versions } from './Versions';
import { Wiring } from './Wiring';

/** Where the author works: levers that answer, charts, and the sentences of the chart in hand. */
export function Bench() {
  const { id = '' } = useParams();
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const { data: opened, error } = useBoardQuery(id, { refetchOnMountOrArgChange: true });
  const {
    document: board,
    chart: inHand,
    past,
    future,
    notice,
    id: openId,
    scratchOf,
  } = useAppSelector((state) => state.board);
  const { data: datasets } = useDatasetsQuery();
  const [pointedLever, setPointedLever] = useState<string | null>(null);
  const [spokenLevers, setSpokenLevers] = useState<string[]>([]);
  const [leverInHand, setLeverInHand] = useState<string | null>(null);
  const { large, enlarge } = useLarge();
  const [selected, setSelected] = useState<string[]>([]);
  /** What lies over the board. */
  const [over, setOver] = useState<'wiring' | 'versions' | null>(null);
  const [called, setCalled] = useState<'palette' | 'keys' | null>(null);
  const doors = useMemo(() => ({ palette: () => setCalled('palette'), keys: () => setCalled('keys') }), []);
  const ready = board !== null && openId === id;

  useEffect(() => {
    if (!opened || opened.id !== id || store.getState().board.id === id) return;
    dispatch(boardOpened(opened));
    const steps = stepsTo(id, opened.document);
    if (steps) dispatch(stepsFound(steps));
  }, [opened, id, dispatch, store]);
  useEffect(() => {
    const keep = () => keepSteps(store.getState().board);
    addEventListener('pagehide', keep);
    return () => {
      keep();
      removeEventListener('pagehide', keep);
    };
  }, [store]);
  useEffect(() => {
    const stop = startAutosave(store);
    return () => {
      stop();
      dispatch(boardClosed());
    };
  }, [store, dispatch]);
  useBenchKeys(doors);
  useClipboard();
  const levers = ready ? board.levers : undefined;
  const locale = useLocaleOf(ready ? board.locale : undefined) ?? english;
  const known = useFacts(levers, ready ? board.charts : undefined, locale);
  usePositionAddress({ boardId: ready ? id : null, levers, facts: known.facts, steps: false });
  useClocks(levers);
  useLive(ready ? board : undefined);
  useAuthors(ready ? id : null);
  useMoveSteps();

  const chart = ready ? chartOf(board, inHand) : undefined;
  const home = chart?.dataset ?? (board && datasetsOf(board)[0]) ?? datasets?.[0]?.id;
  const { data: dataset } = useDatasetQuery(home ?? '', { skip: !home });
  if (error)
    return (
      <>
        <TopBar />
        <main className="sv-page">
          <h1>{tell('bench.bench.thisBoardCannotBeOpened')}</h1>
          <p>{problemText(error)}</p>
          <Link to="/">{tell('bench.bench.allBoards')}</Link>
        </main>
      </>
    );
  if (!ready) return <p className="sv-loading">{tell('bench.bench.loading')}</p>;

  const lever = leverInHand ? leverOf(board, leverInHand) : undefined;
  const reached = pointedLever ? leverReach(board, pointedLever).map((reach) => reach.chart) : [];
  const addChart = () => {
    if (!dataset) return;
    const made = firstChart(
      dataset,
      board.charts.map((each) => each.id),
    );
    dispatch(edit(tell('bench.bench.aChart'), (draft) => void draft.charts.push(made)));
    dispatch(chartChosen(made.id));
  };
  /** Where a link to this board can begin. */
  const linkStart = () => {
    const { committed } = store.getState().positions;
    return {
      levers: board.levers,
      positions: positionsToQuery(board.levers, committed, known.facts).toString(),
    };
  };
  const undoable = past.at(-1);
  const redoable = future.at(-1);
  return (
    <FactsContext value={known}>
      <div className={large ? 'sv-bench has-large' : 'sv-bench'}>
        <title>{tell('bench.bench.boardSorvik', { board: board.title })}</title>
        <SkipLinks
          to={[
            { id: 'sv-levers', text: tell('bench.bench.toTheLevers') },
            { id: 'sv-charts', text: tell('bench.bench.toTheCharts') },
            ...(chart ? [{ id: 'sv-sentences', text: tell('bench.bench.toTheSentencesOfThe') }] : []),
          ]}
        />
        <TopBar
          place={
            <div className="sv-bench-place">
              <InlineText
                value={board.title}
                label={tell('bench.bench.titleOfTheBoard')}
                className="sv-board-title"
                onKeep={(title) =>
                  dispatch(
                    edit(tell('bench.bench.theTitle'), (draft) => {
                      draft.title = title;
                    }),
                  )
                }
              />
              <DataStamp board={board} locale={english} />
              <Others board={board} />
            </div>
          }
        >
          <Doubts
            board={board}
            datasets={datasets}
            onLever={setLeverInHand}
            onChart={(chartId) => dispatch(chartChosen(chartId))}
          />
          <SaveState />
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            disabled={!undoable}
            title={undoable ? tell('bench.bench.undoLabel', { label: undoable.label }) : ''}
            onClick={() => dispatch(undo())}
          >
            {tell('bench.bench.undo')}
          </button>
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            disabled={!redoable}
            title={redoable ? tell('bench.bench.redoLabel', { label: redoable.label }) : ''}
            onClick={() => dispatch(redo())}
          >
            {tell('bench.bench.redo')}
          </button>
          <Explained word="wiring">
            <button
              type="button"
              className="btn btn-sm btn-quiet"
              aria-pressed={over === 'wiring'}
              onClick={() => setOver(over === 'wiring' ? null : 'wiring')}
            >
              {tell('bench.bench.wiring')}
            </button>
          </Explained>
          <BoardMenu board={board} onVersions={() => setOver('versions')} onKeys={doors.keys} />
          {scratchOf === null && <Publish board={board} />}
          <ShareButton kind="board" id={id!} links={linkStart} />
          <Explained word="show" placement="bottom-end">
            <Link
              className="btn btn-sm btn-primary"
              to={`/show/${id}${location.search}`}
              target="_blank"
              onPointerDown={(event) =>
                event.currentTarget.setAttribute('href', `/show/${id}${location.search}`)
              }
            >
              {tell('bench.bench.show')}
            </Link>
          </Explained>
        </TopBar>
        {notice && (
          <p className="sv-told" role="status">
            {notice}{' '}
            <button
              type="button"
              className="btn-close"
              aria-label={tell('bench.bench.close')}
              onClick={() => dispatch(noticeClosed())}
            />
          </p>
        )}
        <ConflictBar />
        <ScratchBar />
        {over && (
          <main className="sv-over">
            {over === 'wiring' ? (
              <Wiring
                board={board}
                datasets={datasets}
                onLever={setLeverInHand}
                onChart={(chartId) => dispatch(chartChosen(chartId))}
                onClose={() => setOver(null)}
              />
            ) : (
              <Versions board={board} onClose={() => setOver(null)} />
            )}
          </main>
        )}
        <div className="sv-bench-body" hidden={over !== null}>
          <aside
            className="sv-levers"
            data-part="levers"
            aria-label={tell('bench.bench.levers')}
            id="sv-levers"
            tabIndex={-1}
          >
            <InLanguage locale={locale}>
              <LeverColumn
                board={board}
                levers={board.levers}
                inHand={leverInHand}
                spoken={spokenLevers}
                onPoint={setPointedLever}
                onTake={setLeverInHand}
              />
            </InLanguage>
            {!board.levers.length && (
              <p className="sv-none">{tell('bench.bench.leversAppearHereWhatViewers')}</p>
            )}
            {dataset && <AddLever board={board} dataset={dataset} onAdded={setLeverInHand} />}
            <MomentList board={board} />
          </aside>
          <InLanguage locale={locale}>
            <Charts
              board={board}
              datasets={datasets ?? []}
              inHand={inHand}
              reached={reached}
              selected={selected}
              onSelect={setSelected}
              large={large}
              onEnlarge={enlarge}
            />
            <Announcer board={board} within="#sv-charts" />
          </InLanguage>
        </div>
        {over === null && <SelectedBar board={board} selected={selected} onSelect={setSelected} />}
        <div className={lever ? 'sv-bench-foot has-card' : 'sv-bench-foot'} hidden={over !== null}>
          {lever ? (
            <LeverCard
              key={lever.id}
              board={board}
              lever={lever}
              home={dataset}
              onClose={() => setLeverInHand(null)}
            />
          ) : (
            <FootTools board={board} dataset={dataset} onAddChart={addChart} />
          )}
          {chart ? (
            <SentenceDesk key={chart.id} board={board} chart={chart} onPoint={setSpokenLevers} />
          ) : (
            <div className="sv-desk" />
          )}
        </div>
        {called === 'palette' && (
          <Palette
            of={datasets}
            onClose={() => setCalled(null)}
            actions={() =>
              boardActions(board, inHand, datasets ?? [], dispatch, {
                wiring: () => setOver('wiring'),
                versions: () => setOver('versions'),
                keys: doors.keys,
                addChart,
                lever: setLeverInHand,
                selectAll: () => setSelected(itemsOf(board).map((item) => item.id)),
                download: (withData) =>
                  location.assign(`/api/boards/${id}/file${withData ? '?data=true' : ''}`),
              })
            }
          />
        )}
        {called === 'keys' && <Keys onClose={() => setCalled(null)} />}
        <Notices />
      </div>
    </FactsContext>
  );
}
