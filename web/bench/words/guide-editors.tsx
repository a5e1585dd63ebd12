import { lineStyles } from '@sorvik/core/guides/line';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { OptionList } from '../../ui/OptionList';
import type { EditorProps } from './editor-kind';

export function LineStyleEditor({ chart, sentence, change }: EditorProps) {
  const { index } = sentence.part!;
  return (
    <OptionList
      label="Line"
      options={lineStyles.map((value) => ({ value, text: value }))}
      chosen={chart.guides[index]!.style}
      onChoose={(style) =>
        change((draft) => {
          draft.guides[index]!.style = style;
        })
      }
    />
  );
}

/** Reads "1,200", "1 200", "0.8" and "0,8". NaN for anything else. */
function figureFrom(text: string): number {
  const plain = text
    .replace(/\s/g, '')
    .replace(/,(?=\d{3}(\D|$))/g, '')
    .replace(',', '.');
  return plain === '' ? Number.NaN : Number(plain);
}

export function FigureEditor({ chart, sentence, change }: EditorProps) {
  const { index } = sentence.part!;
  const [text, setText] = useState(String(chart.guides[index]!.at));
  const fits = Number.isFinite(figureFrom(text));
  return (
    <Form.Group>
      <Form.Control
        size="sm"
        inputMode="decimal"
        aria-label="Figure"
        value={text}
        isInvalid={!fits}
        onChange={(event) => {
          const next = event.target.value;
          setText(next);
          const figure = figureFrom(next);
          if (Number.isFinite(figure))
            change((draft) => {
              draft.guides[index]!.at = figure;
            });
        }}
      />
      {!fits && <Form.Text className="text-danger">A number, as 1200 or 0.8.</Form.Text>}
    </Form.Group>
  );
}

export function GuideNameEditor({ chart, sentence, change }: EditorProps) {
  const { index } = sentence.part!;
  return (
    <Form.Control
      size="sm"
      aria-label="Name"
      maxLength={80}
      value={chart.guides[index]!.name ?? ''}
      onChange={(event) => {
        const name = event.target.value;
        change((draft) => {
          draft.guides[index]!.name = name;
        });
      }}
    />
  );
}
