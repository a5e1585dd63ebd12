import { type Board, datasetsOf } from '@sorvik/core/board/board';
import type { Locale } from '@sorvik/core/messages/locale';
import { useEffect, useRef, useState } from 'react';
import { api } from '../app/api';
import { useAppSelector } from '../app/store';
import { useLanguage } from '../ui/language';
import { say } from '../ui/say';

/** So long nothing changes before it is said, ms: a drag is said once, when it has come to rest. */
const restTime = 900;
/** What changes later than this after a person did something was not their doing: a clock moves all the time. */
const ownTime = 6000;
/** Rows that arrive all the time are told of so far apart, ms. */
const arrivalsApart = 30_000;
const longest = 240;

const cut = (text: string) => (text.length <= longest ? text : `${text.slice(0, longest - 1)}…`);

/** What changed on a board, in one sentence: the caption of the first chart, and how many others changed too. */
function summary(changed: readonly HTMLElement[], locale: Locale): string {
  const [first] = changed;
  const title = first?.closest('figure')?.querySelector('h2')?.textContent ?? '';
  const others = changed.length - 1;
  const told = cut(`${title}: ${first?.textContent ?? ''}`);
  return others > 0 ? say(locale, 'announced.others', { told, n: others }) : told;
}

/** The versions of a board's datasets as one text; empty before all are known. */
const useVersions = (board: Board): string =>
  useAppSelector((state) => {
    const versions = datasetsOf(board).map((id) => api.endpoints.dataset.select(id)(state).data?.version);
    return versions.includes(undefined) ? '' : versions.join();
  });

/**
 * Tells who hears the page what a move changed: once for the whole board, and only what they did themselves; and what new
 * data changed, unless that has just been told.
 */
export function Announcer({ board, within }: { board: Board; within: string }) {
  const { locale } = useLanguage();
  const versions = useVersions(board);
  const arrived = useRef<() => void>(undefined);
  const before = useRef('');
  useEffect(() => {
    if (before.current && versions && before.current !== versions) arrived.current?.();
    before.current = versions;
  }, [versions]);
  const [said, setSaid] = useState('');
  const latest = useRef('');
  useEffect(() => {
    const root = document.querySelector(within);
    if (!root) return;
    let acted = Number.NEGATIVE_INFINITY;
    let lastArrival = Number.NEGATIVE_INFINITY;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const known = new WeakMap<Element, string>();
    const captions = () => [...root.querySelectorAll<HTMLElement>('figcaption')];
    const tell = () => {
      const changed = captions().filter((each) => known.has(each) && known.get(each) !== each.textContent);
      for (const each of changed) known.set(each, each.textContent ?? '');
      if (!changed.length || performance.now() - acted > ownTime) return;
      const text = summary(changed, locale);
      // What was said is not said again.
      if (text !== latest.current) setSaid(text);
      latest.current = text;
      // One arrival is told of once, whatever else comes soon.
      if (acted === lastArrival) acted = Number.NEGATIVE_INFINITY;
    };
    const watch = new MutationObserver(() => {
      clearTimeout(timer);
      timer = setTimeout(tell, restTime);
    });
    const act = () => {
      acted = performance.now();
      // Captions alone are watched, and from the first act on: drawing is not to be slowed down.
      for (const each of captions()) {
        if (known.has(each)) continue;
        known.set(each, each.textContent ?? '');
        watch.observe(each, { subtree: true, childList: true, characterData: true });
      }
    };
    arrived.current = () => {
      const now = performance.now();
      if (now - lastArrival < arrivalsApart) return;
      act();
      lastArrival = acted;
    };
    for (const event of ['keydown', 'pointerdown', 'change'] as const) addEventListener(event, act, true);
    return () => {
      clearTimeout(timer);
      watch.disconnect();
      for (const event of ['keydown', 'pointerdown', 'change'] as const)
        removeEventListener(event, act, true);
    };
  }, [within, locale]);
  return (
    <p className="visually-hidden" role="status" data-part="announced">
      {said}
    </p>
  );
}
