import { registryOf } from '../kinds';
import { area } from './area';
import { bars } from './bars';
import { columns } from './columns';
import type { FormKind } from './form-kind';
import { line } from './line';
import { table } from './table';

export const formKinds = registryOf<FormKind>('form', [bars, columns, line, area, table]);
