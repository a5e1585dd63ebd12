import { registryOf } from '../kinds';
import { bars } from './bars';
import { columns } from './columns';
import type { FormKind } from './form-kind';

export const formKinds = registryOf<FormKind>('form', [bars, columns]);
