import { chartOf, datasetsOf, leverOf } from '@sorvik/core/board/board';
import { firstChart } from '@sorvik/core/board/defaults';
import { movedTo, type Place, placesOf } from '@sorvik/core/board/layout';
import { leverReach } from '@sorvik/core/words/lever-reach';
import { chartTitle } from '@sorvik/core/words/measure-text';
import { vocabularyOf } from '@sorvik/core/words/vocabulary';
import { useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { problemText, useBoardQuery, useDatasetQuery, useDatasetsQuery } from '../app/api';
import { useAppDispatch, useAppSelector, useAppStore } from '../app/store';
import { startAutosave } from '../board/autosave';
import { boardClosed, boardOpened, chartChosen, edit, noticeClosed, redo, undo } from '../board/board-slice';
import { gridStyle, laidOut } from '../board/grid';
import { useLarge } from '../board/use-large';
import { usePositionAddress } from '../board/use-position-address';
import { ChartFigure } from '../chart/ChartFigure';
import { FactsContext } from '../levers/facts-context';
import { useClocks } from '../levers/use-clocks';
import { useFacts } from '../levers/use-facts';
import { Guard } from '../ui/Guard';
import { InlineText } from '../ui/InlineText';
import { Notices } from '../ui/Notices';
import { TopBar } from '../ui/TopBar';
import { AddLever } from './AddLever';
import { BoardMenu } from './BoardMenu';
import { ConflictBar } from './ConflictBar';
import { Doubts } from './Doubts';
import { GridGrips } from './GridGrips';
import { Keys } from './Keys';
import { LeverCard } from './LeverCard';
import { LeverColumn } from './LeverColumn';
import { Palette } from './Palette';
import { Publish } from './Publish';
import { SaveState } from './SaveState';
import { ScratchBar } from './ScratchBar';
import { SentenceDesk } from './SentenceDesk';
import { boardActions, useBenchKeys } from './use-actions';
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
  const [tried, setTried] = useState<Place[] | null>(null);
  /** What lies over the board. */
  const [over, setOver] = useState<'wiring' | 'versions' | null>(null);
  const [called, setCalled] = useState<'palette' | 'keys' | null>(null);
  const doors = useMemo(() => ({ palette: () => setCalled('palette'), keys: () => setCalled('keys') }), []);
  const ready = board !== null && openId === id;

  useEffect(() => {
    if (opened && opened.id === id && store.getState().board.id !== id) dispatch(boardOpened(opened));
  }, [opened, id, dispatch, store]);
  useEffect(() => {
    const stop = startAutosave(store);
    return () => {
      stop();
      dispatch(boardClosed());
    };
  }, [store, dispatch]);
  useBenchKeys(doors);
  const levers = ready ? board.levers : undefined;
  const known = useFacts(levers);
  usePositionAddress({ boardId: ready ? id : null, levers, facts: known.facts, steps: false });
  useClocks(levers);
  useMoveSteps();

  const chart = ready ? chartOf(board, inHand) : undefined;
  const home = chart?.dataset ?? (board && datasetsOf(board)[0]) ?? datasets?.[0]?.id;
  const { data: dataset } = useDatasetQuery(home ?? '', { skip: !home });
  if (error)
    return (
      <>
        <TopBar />
        <main className="sv-page">
          <h1>This board cannot be opened</h1>
          <p>{problemText(error)}</p>
          <Link to="/">All boards</Link>
        </main>
      </>
    );
  if (!ready) return <p className="sv-loading">Opening ..</p>;

  const lever = leverInHand ? leverOf(board, leverInHand) : undefined;
  const reached = pointedLever ? leverReach(board, pointedLever).map((reach) => reach.chart) : [];
  const addChart = () => {
    if (!dataset) return;
    const made = firstChart(
      dataset,
      board.charts.map((each) => each.id),
    );
    dispatch(edit('a chart', (draft) => void draft.charts.push(made)));
    dispatch(chartChosen(made.id));
  };
  const places = placesOf(board.charts);
  const keepPlaces = (kept: Place[]) =>
    dispatch(
      edit('the layout', (draft) => {
        draft.charts.forEach((each, i) => {
          each.place = kept[i]!;
        });
      }),
    );
  const undoable = past.at(-1);
  const redoable = future.at(-1);
  return (
    <FactsContext value={known}>
      <div className={large ? 'sv-bench has-large' : 'sv-bench'}>
        <title>{`${board.title} · Sorvik`}</title>
        <TopBar
          place={
            <InlineText
              value={board.title}
              label="Title of the board"
              className="sv-board-title"
              onKeep={(title) =>
                dispatch(
                  edit('the title', (draft) => {
                    draft.title = title;
                  }),
                )
              }
            />
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
            title={undoable ? `Take back: ${undoable.label}` : ''}
            onClick={() => dispatch(undo())}
          >
            Undo
          </button>
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            disabled={!redoable}
            title={redoable ? `Do again: ${redoable.label}` : ''}
            onClick={() => dispatch(redo())}
          >
            Redo
          </button>
          <button
            type="button"
            className="btn btn-sm btn-quiet"
            aria-pressed={over === 'wiring'}
            onClick={() => setOver(over === 'wiring' ? null : 'wiring')}
          >
            Wiring
          </button>
          <BoardMenu onVersions={() => setOver('versions')} onKeys={doors.keys} />
          {scratchOf === null && <Publish board={board} />}
          <Link
            className="btn btn-sm btn-primary"
            to={`/show/${id}${location.search}`}
            target="_blank"
            onPointerDown={(event) =>
              event.currentTarget.setAttribute('href', `/show/${id}${location.search}`)
            }
          >
            Show
          </Link>
        </TopBar>
        {notice && (
          <p className="sv-told" role="status">
            {notice}{' '}
            <button
              type="button"
              className="btn-close"
              aria-label="Close"
              onClick={() => dispatch(noticeClosed())}
            />
          </p>
        )}
        <ConflictBar />
        <ScratchBar />
        {over === 'wiring' && (
          <Wiring
            board={board}
            datasets={datasets}
            onLever={setLeverInHand}
            onChart={(chartId) => dispatch(chartChosen(chartId))}
            onClose={() => setOver(null)}
          />
        )}
        {over === 'versions' && <Versions board={board} onClose={() => setOver(null)} />}
        <div className="sv-bench-body" hidden={over !== null}>
          <aside className="sv-levers" aria-label="Levers">
            <LeverColumn
              board={board}
              levers={board.levers}
              inHand={leverInHand}
              spoken={spokenLevers}
              onPoint={setPointedLever}
              onTake={setLeverInHand}
            />
            {dataset && <AddLever board={board} dataset={dataset} onAdded={setLeverInHand} />}
          </aside>
          <main className="sv-charts" id="sv-charts">
            {laidOut(board.charts, tried ?? places).map(({ chart: each, place, index }) => (
              <div
                key={each.id}
                style={gridStyle(place)}
                className={`sv-cell${each.id === inHand ? ' is-in-hand' : ''}${reached.includes(each.id) ? ' is-reached' : ''}${each.id === large ? ' is-large' : ''}`}
                onPointerDownCapture={() => each.id !== inHand && dispatch(chartChosen(each.id))}
                onFocusCapture={() => each.id !== inHand && dispatch(chartChosen(each.id))}
              >
                <Guard what="This chart">
                  <ChartFigure board={board} chart={each} large={each.id === large} onEnlarge={enlarge} />
                </Guard>
                {each.id !== large && (
                  <GridGrips
                    name={chartTitle(each, vocabularyOf(board, undefined))}
                    place={place}
                    onTry={(to) => setTried(to && movedTo(places, index, to))}
                    onKeep={(to) => keepPlaces(movedTo(places, index, to))}
                  />
                )}
              </div>
            ))}
            {!board.charts.length && <p className="sv-none">This board has no chart.</p>}
          </main>
        </div>
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
            <div className="sv-foot-tools">
              <button
                type="button"
                className="btn btn-sm btn-outline-secondary"
                disabled={!dataset}
                onClick={addChart}
              >
                + chart
              </button>
              {home && dataset && <Link to={`/datasets/${home}`}>{dataset.name}</Link>}
            </div>
          )}
          {chart ? (
            <SentenceDesk key={chart.id} board={board} chart={chart} onPoint={setSpokenLevers} />
          ) : (
            <div className="sv-desk" />
          )}
        </div>
        {called === 'palette' && (
          <Palette
            onClose={() => setCalled(null)}
            actions={() =>
              boardActions(board, inHand, datasets ?? [], dispatch, {
                wiring: () => setOver('wiring'),
                versions: () => setOver('versions'),
                keys: doors.keys,
                addChart,
                lever: setLeverInHand,
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
