import { tell } from '../ui/tell';
import { useReturnFocus } from '../ui/use-return-focus';

const mac = /Mac|iPhone|iPad/.test(navigator.platform);
const control = mac ? '⌘' : 'Ctrl';

/** The keys of the bench, each with what it does. */
export const benchKeys: readonly (readonly [keys: string, does: string])[] = [
  [`${control} K`, tell('bench.keys.searchAllCommands')],
  [`${control} Z`, tell('bench.keys.undoWithShiftRedo')],
  [`${control} C`, tell('bench.keys.copyTheSelectedChartOr')],
  [`${control} V`, tell('bench.keys.putWhatWasCopiedOn')],
  ['?', tell('bench.keys.thisList')],
  ['Tab', tell('bench.keys.fromLeversToChartsTo')],
  ['Arrows', tell('bench.keys.onAChartFromMark')],
  ['Space', tell('bench.keys.pickTheMarkWithShift')],
  ['Shift Space', tell('bench.keys.onAChartSHandle')],
  ['Enter', tell('bench.keys.onAWordOpenIt')],
  ['Esc', tell('bench.keys.cancelTheChangeOnA')],
];

/** A short list of keys, over the board. */
export function Keys({ onClose }: { onClose(): void }) {
  useReturnFocus();
  return (
    <section
      className="sv-palette sv-keys"
      aria-label={tell('bench.keys.keys')}
      onKeyDown={(event) => {
        if (event.key === 'Escape' || event.key === '?') onClose();
        event.stopPropagation();
      }}
    >
      <table>
        <tbody>
          {benchKeys.map(([keys, does]) => (
            <tr key={keys}>
              <th scope="row">
                <kbd>{keys}</kbd>
              </th>
              <td>{does}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {/* biome-ignore lint/a11y/noAutofocus: Esc and Enter close it at once */}
      <button type="button" className="btn btn-sm btn-quiet" autoFocus onClick={onClose}>
        {tell('bench.keys.close')}
      </button>
    </section>
  );
}
