import { IsIn, IsInt, Max, Min } from 'class-validator';
import { LeverBase } from '../levers/lever-base';
import type { LeverKind } from '../levers/lever-kind';

/** A mark from one star up to some. */
export class StarsLever extends LeverBase {
  @IsIn(['stars'])
  kind!: 'stars';

  @IsInt()
  @Min(2)
  @Max(10)
  most!: number;

  @IsInt()
  @Min(1)
  @Max(10)
  start!: number;
}

const within = ({ most }: StarsLever, stars: number) => Math.max(1, Math.min(most, Math.round(stars)));
const text = (_spec: StarsLever, stars: number) => `${stars} ${stars === 1 ? 'star' : 'stars'}`;

export const stars: LeverKind<StarsLever, number> = {
  kind: 'stars',
  Spec: StarsLever,
  noun: 'a mark in stars',
  clearings: ['start', 'keep'],
  make: ({ id, name }) => ({ kind: 'stars', id, name, most: 5, start: 3, clearing: 'start' }),
  start: (spec) => spec.start,
  startAt: (_spec, position) => ({ start: position }),
  isEmpty: () => false,
  same: (a, b) => a === b,
  clear: (spec, position) => (spec.clearing === 'keep' ? position : spec.start),
  toQuery: (position) => [String(position)],
  fromQuery: (_spec, [written = '']) => (/^\d+$/.test(written) ? Number(written) : undefined),
  settle(spec, position) {
    const fitted = within(spec, position);
    if (fitted === position) return { position };
    return {
      position: fitted,
      notice: () => `There are 1 to ${spec.most} stars: ${text(spec, fitted)} instead.`,
    };
  },
  summary: text,
  figures: {
    parts: ['value'],
    read: (position) => position,
    isShare: () => false,
    bounds: ({ most }) => ({ min: 1, max: most, step: 1 }),
    move: (spec, _position, _part, figure) => within(spec, figure),
    text,
  },
};
