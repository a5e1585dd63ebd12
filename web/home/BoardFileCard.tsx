import type { FileNeed } from '@sorvik/core/edit/board-file';
import { english } from '@sorvik/core/messages/locale';
import { counted, listed } from '@sorvik/core/words/plural';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { problemText } from '../app/api';
import {
  useDatasetsQuery,
  useFileNeedsMutation,
  useImportFileMutation,
  useImportZipMutation,
} from '../app/editing-api';
import { SelectField } from '../levers/setups/fields';
import { Problem } from '../ui/Problem';
import { tell } from '../ui/tell';

interface Props {
  file: File;
  onClose(): void;
}

/** Larger files are no boards. */
const maxBytes = 4 * 1024 * 1024;
const notChosen = '';

/** What stands here for one dataset of the file: what is there by itself is filled in, the rest is asked for. */
function Need({
  need,
  chosen,
  onChoose,
}: {
  need: FileNeed;
  chosen: { dataset: string; fields: Record<string, string> };
  onChoose(dataset: string, fields: Record<string, string>): void;
}) {
  const { data: datasets = [] } = useDatasetsQuery();
  const dataset = datasets.find(({ id }) => id === chosen.dataset);
  const found = need.found[chosen.dataset] ?? {};
  const missing = need.fields.filter(({ key }) => !found[key]);
  return (
    <div className="sv-fields">
      <SelectField
        label={tell('home.boardFileCard.forNeed', { need: need.name })}
        value={chosen.dataset}
        options={[
          { value: notChosen, text: tell('home.boardFileCard.chooseADataset') },
          ...datasets.map(({ id, name }) => ({ value: id, text: name })),
        ]}
        onTake={(id) => onChoose(id, { ...need.found[id] })}
      />
      {dataset && (
        <p className="sv-hint">
          {missing.length
            ? tell('home.boardFileCard.fieldsAreMissing', {
                n: missing.length,
                fields: listed(
                  missing.map(({ name }) => name),
                  english,
                  4,
                ),
                dataset: dataset.name,
              })
            : tell('home.boardFileCard.allFieldsThatTheBoard', {
                fields: counted(need.fields.length, 'field', english),
              })}
        </p>
      )}
      {dataset &&
        missing.map((field) => (
          <SelectField
            key={field.key}
            label={`${field.name} (${field.type})`}
            value={chosen.fields[field.key] ?? notChosen}
            options={[
              { value: notChosen, text: tell('home.boardFileCard.chooseAField') },
              ...dataset.fields.map(({ key, name, type }) => ({ value: key, text: `${name} (${type})` })),
            ]}
            onTake={(key) => onChoose(dataset.id, { ...chosen.fields, [field.key]: key })}
          />
        ))}
    </div>
  );
}

/** A board that comes in as a file: looked at first, asked about where something is missing, then kept. */
export function BoardFileCard({ file, onClose }: Props) {
  const navigate = useNavigate();
  const [ask] = useFileNeedsMutation();
  const [keep, keeping] = useImportFileMutation();
  const [keepZip] = useImportZipMutation();
  const [content, setContent] = useState<unknown>();
  const [needs, setNeeds] = useState<{ title: string; needs: FileNeed[] }>();
  const [chosen, setChosen] = useState<Record<string, { dataset: string; fields: Record<string, string> }>>(
    {},
  );
  const [problem, setProblem] = useState<string>();
  const begun = useRef(false);
  const isZip = /\.zip$/i.test(file.name);

  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    const read = async () => {
      if (isZip) {
        const made = await keepZip(file);
        if (made.data) navigate(`/boards/${made.data.id}`);
        else setProblem(problemText(made.error));
        return;
      }
      if (file.size > maxBytes) return setProblem(tell('home.boardFileCard.aBoardFileHasUp'));
      let json: unknown;
      try {
        json = JSON.parse(await file.text());
      } catch {
        return setProblem(tell('home.boardFileCard.thisFileIsNotValid'));
      }
      const asked = await ask(json);
      if (!asked.data) return setProblem(problemText(asked.error));
      setContent(json);
      setNeeds(asked.data);
      setChosen(
        Object.fromEntries(
          asked.data.needs.map((need) => [
            need.id,
            { dataset: need.dataset ?? notChosen, fields: { ...need.found[need.dataset ?? ''] } },
          ]),
        ),
      );
    };
    void read();
  }, [file, isZip, ask, keepZip, navigate]);

  const complete =
    needs?.needs.every(({ id, fields }) => {
      const choice = chosen[id];
      return choice?.dataset && fields.every(({ key }) => choice.fields[key]);
    }) ?? false;
  const make = async () => {
    const made = await keep({ file: content, datasets: chosen });
    if (made.data) navigate(`/boards/${made.data.id}`);
    else setProblem(problemText(made.error));
  };
  return (
    <section className="sv-import" aria-label={tell('home.boardFileCard.boardFileFile', { file: file.name })}>
      <p>
        <strong>{needs?.title ?? file.name}</strong>
        {!needs &&
          !problem &&
          (isZip ? tell('home.boardFileCard.importingTheBoardAndIts') : tell('home.boardFileCard.loading'))}
      </p>
      {problem && <Problem>{tell('home.boardFileCard.problemNothingWasChanged', { problem })}</Problem>}
      {needs?.needs.map((need) => (
        <Need
          key={need.id}
          need={need}
          chosen={chosen[need.id] ?? { dataset: notChosen, fields: {} }}
          onChoose={(dataset, fields) => setChosen({ ...chosen, [need.id]: { dataset, fields } })}
        />
      ))}
      <div className="sv-row">
        {needs && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!complete || keeping.isLoading}
            onClick={() => void make()}
          >
            {tell('home.boardFileCard.createBoard')}
          </button>
        )}
        {(needs || problem) && (
          <button type="button" className="btn btn-sm btn-outline-secondary" onClick={onClose}>
            {problem ? tell('home.boardFileCard.close') : tell('home.boardFileCard.cancel')}
          </button>
        )}
      </div>
    </section>
  );
}
