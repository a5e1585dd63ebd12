import type { SceneLine, SceneText, ValueAxis } from '../forms/scene';
import type { Kind } from '../kinds';
import type { Part } from '../words/sentence';

/** What a guide adds to a scene. */
export interface GuideMarks {
  lines: SceneLine[];
  texts: SceneText[];
}

/** One kind of guide. */
export interface GuideKind<S> extends Kind {
  Spec: new () => S & object;
  /** The figures it stands at: the value axis is made long enough to show them. */
  figures(spec: S): number[];
  /** Places it on a plot whose values run along `axis`. */
  place(spec: S, axis: ValueAxis): GuideMarks;
  /** Its whole sentence. */
  parts(spec: S): Part[];
}
