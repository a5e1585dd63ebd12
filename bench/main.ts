import { readFileSync } from 'node:fs';
import { type Browser, chromium } from 'playwright-core';
// @ts-expect-error: the scripts are plain JavaScript, run before anything is installed
import { browserPath } from '../scripts/lib/packages.mjs';
import { arrivalBench } from './arrival';
import { atSizeBench } from './at-size';
import { cuesBench } from './cues';
import { dragBench } from './drag';
import { elementsBench } from './elements';
import { filterBench } from './filter';
import { formulasBench } from './formulas';
import { hostileBench } from './hostile';
import { importBench, writeCsv } from './import';
import { leverToPaint } from './lever-to-paint';
import { formatsBench, pushedBench } from './living';
import { manyMarksBench } from './many-marks';
import { picturesBench } from './pictures';
import { requestsBench } from './requests';
import type { StartedServer } from './server';
import { showBytes } from './show-bytes';
import { sourcesBench } from './sources';
import { rounded, tableOf } from './statistics';
import { viewersBench } from './viewers';

const oneFrame = 1000 / 60;

/** A browser of its own for each measurement: none pays for what another one left behind. */
async function inBrowser<T>(measure: (browser: Browser) => Promise<T>): Promise<T> {
  const browser = await chromium.launch({
    executablePath: browserPath(),
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking'],
  });
  try {
    return await measure(browser);
  } finally {
    await browser.close();
  }
}

/** Runs all measurements in one go and returns them with a table for people. */
export async function runBench(server: StartedServer, folder: string, apexFile: string, rows: number) {
  const bytes = await inBrowser((browser) => showBytes(browser, server.url));
  const paint = await inBrowser((browser) =>
    leverToPaint(browser, server.url, readFileSync(apexFile, 'utf8')),
  );
  const cues = cuesBench(10_000);
  const manyCues = cuesBench(100_000);
  const formulas = formulasBench();
  const drag = await inBrowser((browser) => dragBench(browser, server.url));
  const many = await manyMarksBench(inBrowser, server.url);
  const arrival = await inBrowser((browser) => arrivalBench(browser, server.url));
  const elements = await inBrowser((browser) =>
    elementsBench(browser, { server: server.url, pages: server.pages }),
  );
  const pictures = await picturesBench(server);
  const file = await writeCsv(folder, rows);
  const imported = await importBench(server, file);
  const sources = await sourcesBench(server, folder, imported.dataset);
  const atSize = await atSizeBench(inBrowser, server, imported.dataset);
  const filter = await filterBench(server, imported.dataset, imported.rows);
  const requests = await requestsBench(server);
  const viewers = await viewersBench(server, imported.dataset);
  const formats = await formatsBench(server, folder, imported.dataset, rows);
  const pushed = await pushedBench(inBrowser, server, imported.dataset);
  const hostile = await hostileBench(server);
  const millions = `${rounded(rows / 1e6, 1)} million`;
  const at500 = paint.find((result) => result.bars === 500)!;
  const table = tableOf([
    ['measurement', 'Sorvik', 'beside it', 'wanted'],
    ...paint.map(({ bars, sorvik, floor, apexCharts }) => [
      `pick to frame, ${bars} bars`,
      `${sorvik.frameMedian} ms (script ${sorvik.scriptMedian}, p95 ${sorvik.frameP95})`,
      `floor ${floor.frameMedian} ms (script ${floor.scriptMedian}); a general chart component ${apexCharts.frameMedian} ms`,
      bars === 500 ? `under ${rounded(2 * floor.frameMedian + oneFrame, 1)} ms; p95 under 16.7 ms` : '',
    ]),
    [
      `drag over ${drag.charts} charts of ${drag.marks} marks`,
      `${Math.round(drag.share * 100)} % of the frames (script ${drag.scriptMedianMs} ms, p95 ${drag.scriptP95Ms})`,
      `longest task ${drag.longestTaskMs ? `${drag.longestTaskMs} ms` : 'under 50 ms'}`,
      '95 %; under 50 ms',
    ],
    ['first paint, 12 charts of 60 marks', `${many.twelveChartsMs} ms of script`, '', 'under 150 ms'],
    [
      `first paint, ${many.lines} lines of ${many.days.toLocaleString('en')} days`,
      `${many.linesMs} ms of script`,
      `pointing at another line ${many.focusScriptMs} ms, painted after ${many.focusFrameMs} ms (p95 ${many.focusFrameP95Ms})`,
      'under 150 ms; within a frame',
    ],
    ['a window moved along them', `${Math.round(many.windowShare * 100)} % of the frames`, '', '95 %'],
    [`${many.dots.toLocaleString('en')} dots painted`, `${many.dotsMs} ms`, '', 'under 100 ms'],
    [`${many.columns.toLocaleString('en')} columns painted`, `${many.columnsMs} ms`, '', 'under 100 ms'],
    [
      `a show of ${many.categories.toLocaleString('en')} categories opened`,
      `longest task ${many.longestTaskMs} ms`,
      `of ${many.few} categories ${many.longestOfFewMs} ms: the scripts themselves`,
      'no longer',
    ],
    [
      `${cues.cues} cues over ${cues.readings.toLocaleString('en')} readings`,
      `${cues.medianMs} ms`,
      `a bare loop ${cues.bareMs} ms: ${cues.ratio}x`,
      'under 5 ms, 6x',
    ],
    [
      `${manyCues.cues} cues over ${manyCues.readings.toLocaleString('en')} readings`,
      `${manyCues.medianMs} ms`,
      `a bare loop ${manyCues.bareMs} ms: ${manyCues.ratio}x`,
      'under 10 ms',
    ],
    [
      `a formula with two windows, ${formulas.readings.toLocaleString('en')} readings`,
      `${formulas.medianMs} ms`,
      `written by hand ${formulas.byHandMs} ms: ${formulas.ratio}x`,
      'under 10 ms, 5x',
    ],
    [
      'import',
      `${imported.rowsPerSecond.toLocaleString('en')} rows/s, ${imported.memoryOverIdleMb} MB over idle`,
      `psql \\copy: ${imported.ratioToPsql}x as fast (new table: ${imported.ratioToPsqlNewTable}x)`,
      '0.8x; under 300 MB',
    ],
    ...formats.map(({ format, rows: count, rowsPerSecond, memoryOverIdleMb }) => [
      `import of ${count.toLocaleString('en')} rows as ${format}`,
      `${rowsPerSecond.toLocaleString('en')} rows/s, ${memoryOverIdleMb} MB over idle`,
      `as CSV ${imported.rowsPerSecond.toLocaleString('en')} rows/s`,
      '',
    ]),
    [
      `1,000 rows pushed until ${pushed.shows} open shows have drawn them`,
      `${pushed.appendMs} ms (p95 ${pushed.appendP95Ms})`,
      `at ${millions} rows`,
      'p95 under 1 s',
    ],
    ['rows pushed, 1,000 at a time', `${pushed.rowsPerSecond.toLocaleString('en')} rows/s`, '', '10,000'],
    [
      'column copy made',
      `${imported.copySeconds} s: ${imported.copyShare} of the import`,
      `anew, of the table: ${sources.copySeconds} s; ${sources.copyShareOfDisk} of the disk that PostgreSQL takes`,
      '0.5 of the import',
    ],
    ...sources.asked.map(({ name, copyMs, postgresMs, times }) => [
      `asked ${name}`,
      `${copyMs} ms`,
      `PostgreSQL ${postgresMs} ms: ${times}x`,
      '5x',
    ]),
    [`a show of four charts opened cold, ${millions} rows`, `${atSize.openedMs} ms`, '', 'under 1500 ms'],
    [
      'a word changed until its chart is drawn',
      `${atSize.changedMs} ms`,
      `PostgreSQL alone ${atSize.changedInPostgresMs} ms`,
      'under 300 ms',
    ],
    [
      'a filter moved on a chart that asks',
      `${atSize.filteredMs} ms (p95 ${atSize.filteredP95Ms})`,
      '',
      'p95 under 150 ms',
    ],
    [
      'a lit cue moved',
      `${atSize.litMs} ms`,
      `over 10,000 rows ${atSize.litFewMs} ms: ${atSize.litRatio}x`,
      '1.0x',
    ],
    [
      'filter move',
      `${filter.moveMedianMs} ms`,
      `PostgreSQL ${filter.postgresMedianMs} ms: ${filter.timesFaster}x`,
      '50x',
    ],
    [
      'kept answers a second: a dataset, a board, a cube',
      [requests.dataset, requests.board, requests.cube].map((n) => n.toLocaleString('en')).join(', '),
      'the sender takes its share of the machine',
      '5,000',
    ],
    [
      `${viewers.viewers} viewers for ${viewers.seconds} s, what is kept`,
      `${viewers.keptMedianMs} ms (p95 ${viewers.keptP95Ms})`,
      `${viewers.failures} failures`,
      'p95 under 100 ms; 0',
    ],
    [
      'the same, what is asked of the rows',
      `${viewers.askedMedianMs} ms (p95 ${viewers.askedP95Ms})`,
      `${viewers.asked} questions`,
      'p95 under 300 ms',
    ],
    [
      `${hostile.requests.toLocaleString('en')} hostile requests`,
      `longest stall of the event loop ${hostile.longestStallMs} ms`,
      `${hostile.failures} failures`,
      'under 100 ms; 0',
    ],
    [
      'a show that was seen before: until its charts are painted',
      `${arrival.plain.chartsMs} ms; six times slower ${arrival.slowed.chartsMs} ms`,
      `moved meanwhile ${arrival.plain.shift}; ${arrival.slowed.shift}`,
      'under 300 ms; 0',
    ],
    [
      'a chart on a page elsewhere',
      `${elements.scriptMs} ms of script until it is painted`,
      `painted after ${elements.paintMs} ms, with nothing kept`,
      'under 100 ms',
    ],
    [
      'its lever set from code',
      `${elements.frameMs} ms to the frame (p95 ${elements.frameP95Ms})`,
      `${elements.inNext} of ${elements.moves} in the next frame`,
      'all',
    ],
    [
      'pictures a second, of fourteen bars',
      `SVG ${pictures.svg.perSecond}, PNG ${pictures.png.perSecond}`,
      `one alone ${pictures.svg.aloneMs} and ${pictures.png.aloneMs} ms`,
      '20',
    ],
    [
      'JavaScript to the first chart',
      `${bytes.gzipKb} kB gzip`,
      `with what is fetched while idle ${bytes.allKb} kB`,
      'under 250 kB',
    ],
  ]);
  const wanted = {
    paintAt500WithinTwiceFloorAndAFrame: at500.sorvik.frameMedian <= 2 * at500.floor.frameMedian + oneFrame,
    paintAt500P95UnderAFrame: at500.sorvik.frameP95 < 16.7,
    importAtLeastEightTenthsOfPsql: imported.ratioToPsql >= 0.8,
    importMemoryFlat: imported.memoryOverIdleMb < 300,
    copyWithinHalfOfTheImport: imported.copyShare < 0.5,
    questionsFiveTimesFaster: sources.asked.every(({ times }) => times >= 5),
    showOpenedColdUnder1500Ms: atSize.openedMs < 1500,
    wordChangedUnder300Ms: atSize.changedMs < 300,
    askedFilterP95Under150Ms: atSize.filteredP95Ms < 150,
    litCueCostsTheSame: atSize.litRatio < 1.25,
    filterFiftyTimesFaster: filter.timesFaster >= 50,
    dragPaints95PercentOfFrames: drag.share >= 0.95,
    cuesUnderFiveMs: cues.medianMs < 5,
    manyCuesUnderTenMs: manyCues.medianMs < 10,
    cuesWithinSixLoops: cues.ratio < 6,
    formulaUnderTenMs: formulas.medianMs < 10,
    formulaWithinFiveLoops: formulas.ratio < 5,
    dragHasNoLongTask: drag.longestTaskMs < 50,
    twelveChartsUnder150Ms: many.twelveChartsMs < 150,
    linesUnder150Ms: many.linesMs < 150,
    focusWithinAFrame: many.focusFrameMs < oneFrame,
    windowPaints95PercentOfFrames: many.windowShare >= 0.95,
    dotsUnder100Ms: many.dotsMs < 100,
    manyCategoriesHaveNoLongerTask: many.longestTaskMs < Math.max(50, 1.1 * many.longestOfFewMs),
    columnsUnder100Ms: many.columnsMs < 100,
    stallUnder100Ms: hostile.longestStallMs < 100,
    keptAnswersOver5000: Math.min(requests.dataset, requests.board, requests.cube) >= 5000,
    keptP95Under100Ms: viewers.keptP95Ms < 100,
    askedP95Under300Ms: viewers.askedP95Ms < 300,
    appendDrawnWithinASecond: pushed.appendP95Ms < 1000,
    tenThousandRowsPushedASecond: pushed.rowsPerSecond >= 10_000,
    noViewerFails: viewers.failures === 0,
    arrivesUnder300Ms: arrival.slowed.chartsMs < 300,
    nothingMoves: arrival.plain.shift === 0 && arrival.slowed.shift === 0,
    elementUnder100Ms: elements.scriptMs < 100,
    elementInNextFrame: elements.inNext === elements.moves,
    twentyPicturesASecond: Math.min(pictures.svg.perSecond, pictures.png.perSecond) >= 20,
    nothingHostileFails: hostile.failures === 0,
    showUnder250Kb: bytes.gzipKb < 250,
  };
  return {
    json: {
      leverToPaint: paint,
      drag,
      manyMarks: many,
      cues,
      manyCues,
      formulas,
      import: imported,
      sources,
      atSize,
      filter,
      requests,
      viewers,
      formats,
      pushed,
      hostile,
      arrival,
      elements,
      pictures,
      showBytes: bytes,
      wanted,
    },
    table,
  };
}
