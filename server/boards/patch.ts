import { applyPatch, type Operation } from 'rfc6902';
import { invalid } from '../http/problem';

const operations = ['add', 'remove', 'replace', 'move', 'copy', 'test'];
const maxOperations = 10_000;
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

/** Applies a JSON Patch (RFC 6902) to a copy of a document; the first operation that fails names itself. */
export function patched<T>(document: T, input: unknown): unknown {
  const list = readOperations(input);
  const copy = structuredClone(document);
  const errors = applyPatch(copy, list);
  const failed = errors.findIndex((error) => error !== null);
  if (failed >= 0)
    throw invalid([
      {
        pointer: `/${failed}`,
        message: `${list[failed]!.op} ${list[failed]!.path} cannot be done: ${errors[failed]!.message}`,
      },
    ]);
  return copy;
}
