import { registryOf } from '../../kinds';
import { points } from './points';
import { rects } from './rects';
import type { ShapeKind } from './shape-kind';

/** One kind per shape of marks. */
export const shapeKinds = registryOf<ShapeKind>('shape', [rects, points]);
