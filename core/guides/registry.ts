import { registryOf } from '../data/kinds';
import { type BandGuide, band } from './band';
import { type CategoryGuide, category } from './category';
import { type EventGuide, event } from './event';
import type { GuideKind } from './guide-kind';
import { type LineGuide, line } from './line';

/** The spec of any guide. */
export type Guide = LineGuide | BandGuide | EventGuide | CategoryGuide;

declare module '../board/specs' {
  interface Specs {
    guide: Guide;
  }
}

// A registry holds kinds of different specs; each is only ever given its own.
// biome-ignore lint/suspicious/noExplicitAny: see above
type AnyGuideKind = GuideKind<any>;

export const guideKinds = registryOf<AnyGuideKind>('guide', [line, band, event, category]);
