import type { CubeRequest } from '@sorvik/core/data/cube';
import { type FieldInfo, fieldOf } from '@sorvik/core/data/dataset';
import type { FieldType } from '@sorvik/core/data/values';

/** Of what type the keys of a question are: periods are dates. */
export const keyTypesOf = ({ keys }: CubeRequest, fields: readonly FieldInfo[]): FieldType[] =>
  keys.map((key) => (key.grain ? 'date' : fieldOf({ fields } as never, key.field)!.type));
