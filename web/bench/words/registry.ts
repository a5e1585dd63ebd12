import { registryOf } from '@sorvik/core/kinds';
import { ByEditor } from './ByEditor';
import { EffectEditor, LookEditor, RestingEditor } from './cue-editors';
import type { EditorKind } from './editor-kind';
import { FormEditor } from './FormEditor';
import { FigureEditor, GuideNameEditor, LineStyleEditor } from './guide-editors';
import { ClearingEditor, LeverEditor } from './lever-editors';
import { MeasureEditor } from './MeasureEditor';
import { OrderEditor } from './OrderEditor';

/** One editor per kind of word. */
export const editorKinds = registryOf<EditorKind>('editor', [
  { kind: 'form', label: 'Form', Editor: FormEditor },
  { kind: 'measure', label: 'Measure', Editor: MeasureEditor },
  { kind: 'by', label: 'Category', Editor: ByEditor },
  { kind: 'order', label: 'Order', Editor: OrderEditor },
  { kind: 'effect', label: 'What it does', Editor: EffectEditor },
  { kind: 'lever', label: 'Lever', Editor: LeverEditor },
  { kind: 'look', label: 'Look', Editor: LookEditor },
  { kind: 'resting', label: 'With nothing picked', Editor: RestingEditor },
  { kind: 'clearing', label: 'Clearing', Editor: ClearingEditor },
  { kind: 'line-style', label: 'Line', Editor: LineStyleEditor },
  { kind: 'figure', label: 'Figure', Editor: FigureEditor },
  { kind: 'guide-name', label: 'Name', Editor: GuideNameEditor },
]);
