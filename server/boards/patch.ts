import { applyPatch, type Operation, Pointer } from 'rfc6902';
import { invalid } from '../http/problem';
import { tell } from '../tell';

const operations = ['add', 'remove', 'replace', 'move', 'copy', 'test'];
const maxOperations = 5_000;
const forbidden = /(^|\/)(__proto__|constructor|prototype)(\/|$)/;

function readOperations(input: unknown): Operation[] {
  if (!Array.isArray(input)) throw invalid([{ pointer: '', message: tell('patch.aJsonPatchIs') }]);
  if (input.length > maxOperations)
    throw invalid([{ pointer: '', message: tell('patch.aPatchCanHave', { most: maxOperations }) }]);
  input.forEach((operation, i) => {
    const wrong = (message: string) => invalid([{ pointer: `/${i}`, message }]);
    if (typeof operation !== 'object' || operation === null || !operations.includes(operation.op))
      throw wrong(tell('patch.opMustBeOne', { known: operations.join(', ') }));
    for (const name of ['path', ...(['move', 'copy'].includes(operation.op) ? ['from'] : [])]) {
      const pointer = operation[name];
      if (typeof pointer !== 'string' || (pointer !== '' && !pointer.startsWith('/')))
        throw wrong(tell('patch.mustBeAJson', { name }));
      if (forbidden.test(pointer)) throw wrong(tell('patch.leadsToWhereNo', { name }));
    }
  });
  return input as Operation[];
}

/** How much of a document operations may look at or copy, all together: a few documents of the largest size. */
const mostWork = 200_000;

/** Values and characters that an operation copies or compares; the same for a document as a whole. */
function sizeOf(value: unknown): number {
  if (typeof value === 'string') return 1 + (value.length >> 4);
  if (typeof value !== 'object' || value === null) return 1;
  let size = 1;
  for (const each of Object.values(value)) size += 1 + sizeOf(each);
  return size;
}

/**
 * Applies a JSON Patch (RFC 6902) to a copy of a document; the first operation that fails names itself. Operations are
 * judged by what they copy before they do: a patch of a few bytes can double a document with each of its lines.
 */
export function patched<T>(document: T, input: unknown): unknown {
  const list = readOperations(input);
  const copy = structuredClone(document);
  let work = sizeOf(copy);
  list.forEach((operation, i) => {
    if (operation.op === 'copy') work += sizeOf(Pointer.fromJSON(operation.from).get(copy));
    if (operation.op === 'test') work += sizeOf(operation.value);
    if (work > mostWork) throw invalid([{ pointer: `/${i}`, message: tell('patch.thePatchCopiesMore') }]);
    const [error] = applyPatch(copy, [operation]);
    if (error)
      throw invalid([
        {
          pointer: `/${i}`,
          message: tell('patch.cannotBeDone', {
            op: operation.op,
            path: operation.path,
            message: error.message,
          }),
        },
      ]);
  });
  return copy;
}
