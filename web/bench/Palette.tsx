import { useMemo, useState } from 'react';
import { tell } from '../ui/tell';
import { hasWords, ListOption, useCombobox } from '../ui/use-combobox';
import { useReturnFocus } from '../ui/use-return-focus';

/** Something that can be done, found by its words. */
export interface Action {
  id: string;
  text: string;
  /** The keys that do the same. */
  keys?: string;
  run(): void;
}

interface Props {
  actions(): readonly Action[];
  /** What actions are made of that may still be on its way when the palette opens. */
  of: unknown;
  onClose(): void;
}

const most = 12;

/** Everything that can be done here, found by typing a few letters of its words. */
export function Palette({ actions, of, onClose }: Props) {
  const [text, setText] = useState('');
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is on the page counts as it was when this opened
  const all = useMemo(actions, [of]);
  const giveBack = useReturnFocus();
  const fitting = all.filter((action) => hasWords(action.text, text));
  const found = fitting.slice(0, most);
  const close = (action?: Action) => {
    giveBack();
    onClose();
    action?.run();
  };
  const { line, list, option, restart } = useCombobox({
    count: found.length,
    onTake: (index) => close(found[index]),
    onEscape: () => close(),
  });
  return (
    <div className="sv-palette" data-part="palette">
      <input
        // biome-ignore lint/a11y/noAutofocus: it is opened to be typed into
        autoFocus
        role="combobox"
        aria-expanded="true"
        {...line}
        aria-label={tell('bench.palette.searchCommands')}
        placeholder={tell('bench.palette.placeholder')}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          restart();
        }}
        onBlur={() => onClose()}
      />
      <div role="listbox" {...list} aria-label={tell('bench.palette.commands')}>
        {found.map((action, i) => (
          <ListOption key={action.id} {...option(i)}>
            {action.text}
            {action.keys && <kbd>{action.keys}</kbd>}
          </ListOption>
        ))}
        {!found.length && <p className="sv-none">{tell('bench.palette.noMatchingCommand')}</p>}
      </div>
      {fitting.length > most && (
        <small>{tell('bench.palette.more', { commands: fitting.length - most })}</small>
      )}
    </div>
  );
}
