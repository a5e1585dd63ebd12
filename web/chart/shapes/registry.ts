import { registryOf } from '@sorvik/core/kinds';
import type { LayerKind } from './layer-kind';
import { lineLayer } from './line-layer';
import { rectLayer } from './rect-layer';

/** One painter per shape of marks. */
export const layerKinds = registryOf<LayerKind>('mark layer', [rectLayer, lineLayer]);
