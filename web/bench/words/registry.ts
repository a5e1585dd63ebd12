import { registryOf } from '@sorvik/core/data/kinds';
import { tell } from '../../ui/tell';
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
  { kind: 'form', label: tell('bench.registry.form'), Editor: FormEditor },
  { kind: 'measure', label: tell('bench.registry.measure'), Editor: MeasureEditor },
  { kind: 'against', label: tell('bench.registry.measureOnTheOtherAxis'), Editor: AgainstEditor },
  { kind: 'alsoMeasure', label: tell('bench.registry.furtherMeasure'), Editor: FurtherMeasureEditor },
  { kind: 'by', label: tell('bench.registry.category'), Editor: ByEditor },
  { kind: 'order', label: tell('bench.registry.order'), Editor: OrderEditor },
  { kind: 'seriesOrder', label: tell('bench.registry.orderOfSeries'), Editor: SeriesOrderEditor },
  { kind: 'effect', label: tell('bench.registry.whatItDoes'), Editor: EffectEditor },
  { kind: 'lever', label: tell('bench.registry.lever'), Editor: LeverEditor },
  { kind: 'side', label: tell('bench.registry.side'), Editor: SideEditor },
  { kind: 'join', label: tell('bench.registry.combine'), Editor: JoinEditor },
  { kind: 'look', label: tell('bench.registry.look'), Editor: LookEditor },
  { kind: 'split', label: tell('bench.registry.series'), Editor: SplitEditor },
  { kind: 'whole', label: tell('bench.registry.fullLength'), Editor: WholeEditor },
  { kind: 'otherwise', label: tell('bench.registry.unlitMarks'), word: 'muted', Editor: OtherwiseEditor },
  { kind: 'tone', label: tell('bench.registry.mutedTone'), Editor: ToneEditor },
  { kind: 'otherMeasure', label: tell('bench.registry.measureComparedBy'), Editor: OtherMeasureEditor },
  { kind: 'axisEnd', label: tell('bench.registry.endOfTheAxis'), Editor: AxisEndEditor },
  { kind: 'keyValue', label: tell('bench.registry.category'), Editor: KeyValueEditor },
  { kind: 'bandEnd', label: tell('bench.registry.endOfTheBand'), Editor: BandEndEditor },
  { kind: 'events', label: tell('bench.registry.events'), Editor: EventsEditor },
  { kind: 'stretches', label: tell('bench.registry.stretches'), Editor: StretchesEditor },
  { kind: 'holidays', label: tell('bench.registry.holidays'), Editor: HolidaysEditor },
  { kind: 'resting', label: tell('bench.registry.whileNothingIsSet'), Editor: RestingEditor },
  { kind: 'clearing', label: tell('bench.registry.whenCleared'), Editor: ClearingEditor },
  { kind: 'figure', label: tell('bench.registry.value'), Editor: FigureEditor },
  { kind: 'option', label: tell('bench.registry.word'), Editor: OptionEditor },
  { kind: 'liveText', label: tell('bench.registry.subtitle'), Editor: LiveTextEditor },
  { kind: 'formula', label: tell('bench.registry.formula'), Editor: FormulaEditor },
  { kind: 'markText', label: tell('bench.registry.formula'), Editor: MarkTextEditor },
  { kind: 'text', label: tell('bench.registry.text'), Editor: TextEditor },
]);
