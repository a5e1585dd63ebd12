import { useReturnFocus } from '../ui/use-return-focus';

const mac = /Mac|iPhone|iPad/.test(navigator.platform);
const control = mac ? '⌘' : 'Ctrl';

/** The keys of the bench, each with what it does. */
export const benchKeys: readonly (readonly [keys: string, does: string])[] = [
  [`${control} K`, 'search all commands'],
  [`${control} Z`, 'undo; with Shift, redo'],
  [`${control} C`, 'copy the selected chart, or the sentence or lever that has the focus'],
  [`${control} V`, 'put what was copied on this board'],
  ['?', 'this list'],
  ['Tab', 'from levers to charts to sentences'],
  ['Arrows', 'on a chart from mark to mark; on a lever to the next position'],
  ['Space', 'pick the mark; with Shift and arrows, several'],
  ['Shift Space', "on a chart's handle: add it to the selection"],
  ['Enter', 'on a word: open it; in its editor: apply'],
  ['Esc', 'cancel the change; on a chart: close the tooltip, then clear what is picked'],
];

/** A short list of keys, over the board. */
export function Keys({ onClose }: { onClose(): void }) {
  useReturnFocus();
  return (
    <section
      className="sv-palette sv-keys"
      aria-label="Keys"
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
        Close
      </button>
    </section>
  );
}
