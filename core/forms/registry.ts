import { registryOf } from '../kinds';
import { bars } from './bars';
import { columns } from './columns';
import type { FormKind } from './form-kind';
import { line } from './line';

export const formKinds = registryOf<FormKind>('form', [bars, columns, line]);
