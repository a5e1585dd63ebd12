import type { LeverContext } from '../conditions/condition-kind';
import type { Readings } from '../cube/readings';
import type { SceneLine, SceneText, ValueAxis } from '../forms/scene';
import type { Kind } from '../kinds';
import type { LeverAbility } from '../levers/abilities';
import type { Part } from '../words/sentence';
import type { Vocabulary } from '../words/vocabulary';

/** A place on the plot by which a lever's figure can be moved: its line, and what it holds. */
export interface GuideHandle {
  lever: string;
  part: string;
  line: Pick<SceneLine, 'x1' | 'y1' | 'x2' | 'y2'>;
  /** The figure on the value axis. */
  at: number;
}

/** What a guide adds to a scene. */
export interface GuideMarks {
  lines: SceneLine[];
  texts: SceneText[];
  handles: GuideHandle[];
}

export interface GuideContext extends LeverContext {
  readings: Readings;
}

/** One kind of guide. */
export interface GuideKind<S> extends Kind {
  Spec: new () => S & object;
  /** The levers that place it. */
  levers(spec: S): string[];
  needs(spec: S): { lever: string; ability: LeverAbility }[];
  /** The figures it stands at now, on the value axis: the axis is made long enough to show them. NaN where there is none. */
  figures(spec: S, context: GuideContext): number[];
  /** Places it, at those figures, on a plot whose values run along `axis`. */
  place(spec: S, figures: readonly number[], axis: ValueAxis): GuideMarks;
  /** Its whole sentence. */
  parts(spec: S, words: Vocabulary): Part[];
  /** The guide without a lever, which is to go. */
  without(spec: S, lever: string, context: LeverContext): S;
}
