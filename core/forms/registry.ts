import { registryOf } from '../data/kinds';
import { area } from './area';
import { bars } from './bars';
import { columns } from './columns';
import { dots } from './dots';
import type { FormKind } from './form-kind';
import { line } from './line';
import { ring } from './ring';
import { table } from './table';

export const formKinds = registryOf<FormKind>('form', [bars, columns, line, area, dots, ring, table]);
