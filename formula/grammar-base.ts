import {
  EmbeddedActionsParser,
  type IParserErrorMessageProvider,
  type IToken,
  type TokenType,
} from 'chevrotain';
import type { At, Expression } from './expression';
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

const shown = ({ image }: IToken) => (image === '' ? 'the end' : `"${image}"`);
const listed = (labels: readonly string[]) => {
  const few = [...new Set(labels)];
  return few.length > 6 ? 'something else' : few.join(' or ');
};
const labelOf = (type: TokenType) => type.LABEL ?? type.name;
const messages: IParserErrorMessageProvider = {
  buildMismatchTokenMessage: ({ expected, actual }) =>
    `${labelOf(expected)} is expected here, not ${shown(actual)}.`,
  buildNotAllInputParsedMessage: ({ firstRedundant }) =>
    `The formula is complete before ${shown(firstRedundant)}.`,
  buildNoViableAltMessage({ expectedPathsPerAlt, actual: [actual] }) {
    const firsts = expectedPathsPerAlt.flat().map((path) => labelOf(path[0]!));
    const what = firsts.length > 6 ? 'A value' : listed(firsts);
    return `${what} is expected here, not ${shown(actual!)}.`;
  },
  buildEarlyExitMessage: ({ actual: [actual] }) => `Something is missing before ${shown(actual!)}.`,
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
