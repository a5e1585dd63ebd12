import { castTo } from './casts';
import { type Compiled, FormulaError } from './compiled';
import type { At } from './expression';
import { isTime, type Spoken, spoken, type Type, typedNull } from './fitting';
import { tell } from './tell';

/** One type for several parts: they are of one, or nothing; a date beside a date-time becomes one. */
export function common(
  parts: readonly { compiled: Compiled; at: At }[],
  what: Spoken,
): { type: Type; parts: Compiled[] } {
  let type: Type = 'null';
  for (const { compiled, at } of parts) {
    if (compiled.type === 'null' || compiled.type === type) continue;
    if (type === 'null') type = compiled.type;
    else if (isTime(type) && isTime(compiled.type)) type = 'datetime';
    else
      throw new FormulaError(
        tell('type.beside', { ...spoken(what), first: type, second: compiled.type }),
        at,
      );
  }
  return {
    type,
    parts: parts.map(({ compiled }) =>
      compiled.type === type
        ? compiled
        : compiled.type === 'null'
          ? typedNull(type)
          : castTo(compiled, 'datetime'),
    ),
  };
}
