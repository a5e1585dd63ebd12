import { registryOf } from '@sorvik/core/data/kinds';
import { dotLayer } from './dot-layer';
import type { LayerKind } from './layer-kind';
import { lineLayer } from './line-layer';
import { rectLayer } from './rect-layer';
import { sliceLayer } from './slice-layer';

/** One painter per shape of marks. */
export const layerKinds = registryOf<LayerKind>('mark layer', [rectLayer, lineLayer, dotLayer, sliceLayer]);
