import { useState } from 'react';
import { noticed } from '../app/notices-slice';
import { useAppDispatch } from '../app/store';
import { DropButton } from '../ui/DropButton';
import { useLanguage } from '../ui/language';
import { noHover, useMedia } from '../ui/use-media';
import type { Carried } from './export/carried';

export interface ChartMenuProps {
  title: string;
  large: boolean;
  /** Its values are listed in place of the plot, and what turns that. */
  listed: boolean;
  onList(): void;
  /** Left out where a chart cannot be enlarged. */
  onEnlarge: (() => void) | undefined;
  /** What is taken along; null while there is nothing yet. */
  carried(): Carried | null;
}

const ways = [
  { way: 'copy', text: 'menu.copy' },
  { way: 'address', text: 'menu.address' },
  { way: 'png', text: 'menu.png' },
  { way: 'svg', text: 'menu.svg' },
  { way: 'csv', text: 'menu.csv' },
  { way: 'xlsx', text: 'menu.xlsx' },
  { way: 'json', text: 'menu.json' },
  { way: 'arrow', text: 'menu.arrow' },
] as const;

/** What can be done, to be chosen from. */
function Acts({ acts, close }: { acts: readonly { text: string; run(): void }[]; close(): void }) {
  return (
    <div className="sv-options">
      {acts.map(({ text, run }) => (
        <button
          key={text}
          type="button"
          className="sv-option"
          onClick={() => {
            close();
            run();
          }}
        >
          {text}
        </button>
      ))}
    </div>
  );
}

/** What can be done with a chart as a whole: give it the window, list its values, or take it along. */
export function ChartMenu({ title, large, listed, onList, onEnlarge, carried }: ChartMenuProps) {
  const { locale, say } = useLanguage();
  const dispatch = useAppDispatch();
  const [busy, setBusy] = useState(false);
  const take = async (way: (typeof ways)[number]['way']) => {
    const what = carried();
    if (!what) return;
    setBusy(true);
    try {
      const { carry } = await import('./export/carry');
      const said = await carry(way, what, locale);
      if (said) dispatch(noticed({ text: said }));
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      dispatch(noticed({ text: say('menu.failed', { reason }) }));
    } finally {
      setBusy(false);
    }
  };
  const narrow = useMedia(noHover);
  const exports = ways.map(({ way, text }) => ({ text: say(text), run: () => void take(way) }));
  const label = say(busy ? 'menu.exporting' : 'menu.export');
  if (narrow)
    return (
      <div className="sv-chart-menu" data-part="chart-menu">
        <DropButton
          label={busy ? label : say('menu.more')}
          name={say('menu.moreFor', { title })}
          title={title}
          placement="bottom-end"
        >
          {(close) => (
            <Acts
              close={close}
              acts={[
                ...(onEnlarge ? [{ text: say(large ? 'menu.back' : 'menu.enlarge'), run: onEnlarge }] : []),
                { text: say(listed ? 'menu.chart' : 'menu.values'), run: onList },
                ...exports,
              ]}
            />
          )}
        </DropButton>
      </div>
    );
  return (
    <div className="sv-chart-menu" data-part="chart-menu">
      <DropButton
        label={label}
        name={`${label} ${title}`}
        title={say('menu.exportOf', { title })}
        placement="bottom-end"
      >
        {(close) => <Acts close={close} acts={exports} />}
      </DropButton>
      <button
        type="button"
        className="btn btn-sm btn-quiet"
        aria-pressed={listed}
        aria-label={say('menu.valuesOf', { title })}
        onClick={onList}
      >
        {say(listed ? 'menu.chartShort' : 'menu.valuesShort')}
      </button>
      {onEnlarge && (
        <button
          type="button"
          className="btn btn-sm btn-quiet"
          aria-pressed={large}
          aria-label={say(large ? 'menu.backFrom' : 'menu.enlargeNamed', { title })}
          onClick={onEnlarge}
        >
          {say(large ? 'menu.back' : 'menu.enlarge')}
        </button>
      )}
    </div>
  );
}
