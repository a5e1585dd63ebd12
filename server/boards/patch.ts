import { applyPatch, type Operation, Pointer } from 'rfc6902';
import { invalid } from '../http/problem';

const operations = ['add', 'remove', 'replace', 'move', 'copy', 'test'];
const maxOperations = 5_000;
const forbidden = /(^|\/)(__proto__|constructor|prototype)(\/|$)/;

function readOperations(input: unknown): Operation[] {
  if (!Array.isArray(input))
    throw invalid([{ pointer: '', message: 'a JSON Patch is a list of operations' }]);
  if (input.length > maxOperations)
    throw invalid([{ pointer: '', message: `a patch can have up to ${maxOperations} operations` }]);
  input.forEach((operation, i) => {
    const wrong = (message: string) => invalid([{ pointer: `/${i}`, message }]);
    if (typeof operation !== 'object' || operation === null || !operations.includes(operation.op))
      throw wrong(`op must be one of ${operations.join(', ')}`);
    for (const name of ['path', ...(['move', 'copy'].includes(operation.op) ? ['from'] : [])]) {
      const pointer = operation[name];
      if (typeof pointer !== 'string' || (pointer !== '' && !pointer.startsWith('/')))
        throw wrong(`${name} must be a JSON Pointer`);
      if (forbidden.test(pointer)) throw wrong(`${name} leads to where no board keeps anything`);
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
    if (work > mostWork)
      throw invalid([{ pointer: `/${i}`, message: 'the patch copies more than a board can hold' }]);
    const [error] = applyPatch(copy, [operation]);
    if (error)
      throw invalid([
        { pointer: `/${i}`, message: `${operation.op} ${operation.path} cannot be done: ${error.message}` },
      ]);
  });
  return copy;
}
