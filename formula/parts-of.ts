import type { Expression } from './expression';

/** The parts that an expression is directly made of, in the order in which they are written. */
export function partsOf(expression: Expression): Expression[] {
  switch (expression.kind) {
    case 'value':
    case 'interval':
    case 'name':
    case 'lever':
      return [];
    case 'unary':
    case 'isNull':
    case 'cast':
      return [expression.of];
    case 'binary':
      return [expression.left, expression.right];
    case 'between':
      return [expression.of, expression.low, expression.high];
    case 'in':
      return [expression.of, ...expression.list];
    case 'anyOf':
      return [expression.of, expression.lever];
    case 'case': {
      const { of, when, else: other } = expression;
      return [...(of ? [of] : []), ...when.flatMap(({ is, then }) => [is, then]), ...(other ? [other] : [])];
    }
    case 'call': {
      const { args, within, filter, over } = expression;
      return [
        ...args,
        ...(within ? [within.by] : []),
        ...(filter ? [filter] : []),
        ...(over ? [...over.partition, ...over.order.map(({ by }) => by)] : []),
      ];
    }
  }
}

/** An expression and all that it is made of. */
export function* everyPart(expression: Expression): Generator<Expression> {
  const open = [expression];
  while (open.length) {
    const next = open.pop()!;
    yield next;
    open.push(...partsOf(next).reverse());
  }
}
