import {
  EmbeddedActionsParser,
  type IParserErrorMessageProvider,
  type IToken,
  type TokenType,
} from 'chevrotain';
import type { At, Expression } from './expression';
import { tell } from './tell';
import { allTokens } from './tokens';

/** A mistake that only shows once a part has been read; it ends the reading. */
export class Mistake extends Error {
  constructor(
    message: string,
    readonly at: At,
  ) {
    super(message);
  }
}

const shown = ({ image }: IToken) => (image === '' ? tell('grammar.end') : `"${image}"`);
const listed = (labels: readonly string[]) => {
  const few = [...new Set(labels)];
  return few.length > 6
    ? tell('grammar.other')
    : few.reduce((first, next) => tell('grammar.or', { first, next }));
};
const labelOf = (type: TokenType) => tell('token', { token: type.name, sign: type.LABEL ?? type.name });
const messages: IParserErrorMessageProvider = {
  buildMismatchTokenMessage: ({ expected, actual }) =>
    tell('grammar.expected', { expected: labelOf(expected), actual: shown(actual) }),
  buildNotAllInputParsedMessage: ({ firstRedundant }) =>
    tell('grammar.complete', { next: shown(firstRedundant) }),
  buildNoViableAltMessage({ expectedPathsPerAlt, actual: [actual] }) {
    const firsts = expectedPathsPerAlt.flat().map((path) => labelOf(path[0]!));
    const what = firsts.length > 6 ? tell('grammar.value') : listed(firsts);
    return tell('grammar.expected', { expected: what, actual: shown(actual!) });
  },
  buildEarlyExitMessage: ({ actual: [actual] }) => tell('grammar.missing', { next: shown(actual!) }),
};

export const at = (token: IToken): At => ({
  from: token.startOffset,
  to: token.startOffset + token.image.length,
});
export const span = (first: At, last: At): At => ({ from: first.from, to: last.to });

/** A rule of the grammar. */
export type Rule = () => Expression;

/** What all parts of the grammar stand on; a rule further up is named by those below it. */
export abstract class GrammarBase extends EmbeddedActionsParser {
  /** The rule that any expression is read by. */
  protected abstract disjunction: Rule;

  constructor() {
    super(allTokens, { errorMessageProvider: messages, maxLookahead: 2, recoveryEnabled: false });
  }
}
