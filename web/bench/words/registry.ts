import { registryOf } from '@sorvik/core/data/kinds';
import { AxisEndEditor } from './AxisEndEditor';
import { ByEditor } from './ByEditor';
import {
  AgainstEditor,
  EffectEditor,
  FurtherMeasureEditor,
  OtherMeasureEditor,
  RestingEditor,
} from './cue-editors';
import type { EditorKind } from './editor-kind';
import { EventsEditor, HolidaysEditor, StretchesEditor } from './event-editors';
import { BandEndEditor, FigureEditor } from './FigureEditor';
import { FormEditor } from './FormEditor';
import { FormulaEditor } from './FormulaEditor';
import { JoinEditor } from './JoinEditor';
import { KeyValueEditor } from './KeyValueEditor';
import { LiveTextEditor } from './LiveTextEditor';
import { LookEditor } from './LookEditor';
import { ClearingEditor, LeverEditor, SideEditor } from './lever-editors';
import { MarkTextEditor } from './MarkTextEditor';
import { MeasureEditor } from './MeasureEditor';
import { OptionEditor } from './OptionEditor';
import { OrderEditor, SeriesOrderEditor } from './OrderEditor';
import { OtherwiseEditor, SplitEditor, ToneEditor, WholeEditor } from './series-editors';
import { TextEditor } from './TextEditor';

/** One editor per kind of word. */
export const editorKinds = registryOf<EditorKind>('editor', [
  { kind: 'form', label: 'Form', Editor: FormEditor },
  { kind: 'measure', label: 'Measure', Editor: MeasureEditor },
  { kind: 'against', label: 'Measure on the other axis', Editor: AgainstEditor },
  { kind: 'alsoMeasure', label: 'Further measure', Editor: FurtherMeasureEditor },
  { kind: 'by', label: 'Category', Editor: ByEditor },
  { kind: 'order', label: 'Order', Editor: OrderEditor },
  { kind: 'seriesOrder', label: 'Order of series', Editor: SeriesOrderEditor },
  { kind: 'effect', label: 'What it does', Editor: EffectEditor },
  { kind: 'lever', label: 'Lever', Editor: LeverEditor },
  { kind: 'side', label: 'Side', Editor: SideEditor },
  { kind: 'join', label: 'Combine', Editor: JoinEditor },
  { kind: 'look', label: 'Look', Editor: LookEditor },
  { kind: 'split', label: 'Series', Editor: SplitEditor },
  { kind: 'whole', label: 'Full length', Editor: WholeEditor },
  { kind: 'otherwise', label: 'Unlit marks', word: 'muted', Editor: OtherwiseEditor },
  { kind: 'tone', label: 'Muted tone', Editor: ToneEditor },
  { kind: 'otherMeasure', label: 'Measure compared by', Editor: OtherMeasureEditor },
  { kind: 'axisEnd', label: 'End of the axis', Editor: AxisEndEditor },
  { kind: 'keyValue', label: 'Category', Editor: KeyValueEditor },
  { kind: 'bandEnd', label: 'End of the band', Editor: BandEndEditor },
  { kind: 'events', label: 'Events', Editor: EventsEditor },
  { kind: 'stretches', label: 'Stretches', Editor: StretchesEditor },
  { kind: 'holidays', label: 'Holidays', Editor: HolidaysEditor },
  { kind: 'resting', label: 'While nothing is set', Editor: RestingEditor },
  { kind: 'clearing', label: 'When cleared', Editor: ClearingEditor },
  { kind: 'figure', label: 'Value', Editor: FigureEditor },
  { kind: 'option', label: 'Word', Editor: OptionEditor },
  { kind: 'liveText', label: 'Subtitle', Editor: LiveTextEditor },
  { kind: 'formula', label: 'Formula', Editor: FormulaEditor },
  { kind: 'markText', label: 'Formula', Editor: MarkTextEditor },
  { kind: 'text', label: 'Text', Editor: TextEditor },
]);
