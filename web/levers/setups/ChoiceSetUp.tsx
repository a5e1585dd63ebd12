import type { ChoiceLever, ChoicePosition } from '@sorvik/core/levers/choice';
import { english } from '@sorvik/core/messages/locale';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { tell } from '../../ui/tell';
import { CheckField, Fields, TextField } from './fields';
import type { SetUpProps } from './setup-kind';

/** What a typed option stands for: a number where it reads as one. */
const optionValue = (text: string) => {
  const { figure, percent } = figureFrom(text, english);
  return Number.isFinite(figure) && !percent ? figure : text;
};

/** The options that an author writes, and whether "all" is one. */
export function ChoiceSetUp({ lever, change }: SetUpProps<ChoiceLever, ChoicePosition>) {
  return (
    <Fields>
      <CheckField
        label={tell('levers.choiceSetUp.offerAll')}
        value={lever.all}
        onTake={(all) =>
          change((draft) => {
            draft.all = all;
          })
        }
      />
      {lever.options?.map((option, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: an option has no other name than its place while it is written
        <div className="sv-option-fields" key={i}>
          <TextField
            label={tell('levers.choiceSetUp.numberedOption', { number: i + 1 })}
            value={option.label}
            onTake={(text) =>
              change((draft) => {
                if (text.trim()) draft.options![i]!.label = text.trim();
              })
            }
          />
          <TextField
            label={tell('levers.choiceSetUp.standsFor')}
            value={String(option.value)}
            onTake={(text) =>
              change((draft) => {
                if (text.trim()) draft.options![i]!.value = optionValue(text.trim());
              })
            }
          />
          <button
            type="button"
            className="btn-close"
            aria-label={tell('levers.choiceSetUp.removeOptionLabel', { label: option.label })}
            disabled={lever.options!.length === 1}
            onClick={() =>
              change((draft) => {
                draft.options!.splice(i, 1);
              })
            }
          />
        </div>
      ))}
      {lever.options && (
        <button
          type="button"
          className="btn btn-link btn-sm"
          onClick={() =>
            change((draft) => {
              const n = draft.options!.length + 1;
              draft.options!.push({ label: tell('levers.choiceSetUp.optionN', { n }), value: n });
            })
          }
        >
          {tell('levers.choiceSetUp.option')}
        </button>
      )}
    </Fields>
  );
}
