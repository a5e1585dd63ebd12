import { fieldOf } from '@sorvik/core/data/dataset';
import { isNumeric, type KeyValue } from '@sorvik/core/data/values';
import type { LeverFacts } from '@sorvik/core/levers/lever-kind';
import { listOf, staysOnServer } from '@sorvik/core/levers/listed';
import { mostPicked, type PickLever } from '@sorvik/core/levers/pick';
import { pastedEntries } from '@sorvik/core/levers/pick-moves';
import type { Locale } from '@sorvik/core/messages/locale';
import { figureFrom } from '@sorvik/core/words/figure-from';
import { keyText } from '@sorvik/core/words/key-text';
import { listed } from '@sorvik/core/words/plural';
import { useState } from 'react';
import { useAbsentValuesMutation } from '../app/api';
import { useLanguage } from '../ui/language';

interface Props {
  lever: PickLever;
  facts: LeverFacts | undefined;
  onTake(values: KeyValue[]): void;
}

/** Finds pasted entries among the values: by the value itself, else by how it reads, whatever its case. */
function matchHere(entries: string[], lever: PickLever, facts: LeverFacts | undefined, locale: Locale) {
  const type = facts && fieldOf(facts.dataset, lever.field)?.type;
  const byText = new Map<string, KeyValue>();
  for (const { value } of listOf(facts, lever) ?? []) {
    byText.set(keyText(value, locale, type, lever.grain).toLocaleLowerCase(), value);
    byText.set(String(value).toLocaleLowerCase(), value);
  }
  const known: KeyValue[] = [];
  const unknown: string[] = [];
  for (const entry of entries) {
    const value = byText.get(entry.toLocaleLowerCase());
    if (value === undefined) unknown.push(entry);
    else known.push(value);
  }
  return { known, unknown };
}

/** A box to paste a list of values into. Entries that are not in the data are named. */
export function PasteList({ lever, facts, onTake }: Props) {
  const { locale, say } = useLanguage();
  const [text, setText] = useState('');
  const [unknown, setUnknown] = useState<string[]>([]);
  const [known, setKnown] = useState<KeyValue[]>([]);
  const [findAbsent, { isLoading }] = useAbsentValuesMutation();
  const look = async () => {
    const entries = pastedEntries(text).slice(0, mostPicked);
    let found = matchHere(entries, lever, facts, locale);
    if (facts && staysOnServer(facts.dataset, lever)) {
      const type = fieldOf(facts.dataset, lever.field)?.type;
      const values = entries.map((entry) =>
        type && isNumeric(type) ? figureFrom(entry, locale).figure : entry,
      );
      const asked = values.filter((value) => !Number.isNaN(value));
      const { absent } = await findAbsent({
        id: facts.dataset.id,
        key: lever.field,
        values: asked,
      }).unwrap();
      const gone = new Set(absent);
      found = {
        known: asked.filter((value) => !gone.has(value)),
        unknown: entries.filter((_, i) => Number.isNaN(values[i]) || gone.has(values[i]!)),
      };
    }
    if (!found.unknown.length) return onTake(found.known);
    setUnknown(found.unknown);
    setKnown(found.known);
  };
  return (
    <div className="sv-paste">
      <textarea
        className="form-control form-control-sm"
        rows={3}
        aria-label={say('paste.values', { lever: lever.name })}
        placeholder={say('paste.oneALine')}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setUnknown([]);
        }}
      />
      {unknown.length > 0 && (
        <p className="sv-notice" role="alert">
          {say('paste.absent', { values: listed(unknown, locale, 4) })}
        </p>
      )}
      {unknown.length > 0 ? (
        <button
          type="button"
          className="btn btn-sm btn-outline-secondary"
          disabled={!known.length}
          onClick={() => onTake(known)}
        >
          {say('paste.takeFound', { n: known.length })}
        </button>
      ) : (
        <button
          type="button"
          className="btn btn-sm btn-outline-secondary"
          disabled={!text.trim() || isLoading}
          onClick={look}
        >
          {say('paste.take')}
        </button>
      )}
    </div>
  );
}
