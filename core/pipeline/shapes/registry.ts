import { registryOf } from '../../data/kinds';
import { dots } from './dots';
import { points } from './points';
import { rects } from './rects';
import type { ShapeKind } from './shape-kind';
import { slices } from './slices';

/** One kind per shape of marks. */
export const shapeKinds = registryOf<ShapeKind>('shape', [rects, points, dots, slices]);
