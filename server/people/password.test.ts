import { verify } from '@node-rs/argon2';
import { describe, expect, it } from 'vitest';
import { hashPassword, isPassword, passwordProblem } from './password';

describe('a password', () => {
  it('takes the same work to refuse, whether there is somebody of that name or not', async () => {
    const kept = await hashPassword('seven brown herons');
    const verified: string[] = [];
    const check: typeof verify = (held, ...more) => {
      verified.push(String(held));
      return verify(held, ...more);
    };
    expect(await isPassword(kept, 'seven brown herons', check)).toBe(true);
    expect(await isPassword(kept, 'something else', check)).toBe(false);
    expect(await isPassword(null, 'seven brown herons', check)).toBe(false);
    expect(verified).toHaveLength(3);
    // At the same cost: what is told is only that it was verified.
    const costs = verified.map((each) => /^\$argon2id\$v=19\$m=\d+,t=\d+,p=\d+/.exec(each)?.[0]);
    expect(new Set(costs)).toEqual(new Set(['$argon2id$v=19$m=19456,t=2,p=1']));
  });

  it('is the same however its letters are put together', async () => {
    const kept = await hashPassword('brünes Heron-Küken');
    expect(await isPassword(kept, 'brünes Heron-Küken'.normalize('NFD'))).toBe(true);
  });

  it('is of any letters, and is not cut', async () => {
    const long = 'ä🚢 '.repeat(40);
    const kept = await hashPassword(long);
    expect(await isPassword(kept, long)).toBe(true);
    expect(await isPassword(kept, long.slice(0, -3))).toBe(false);
  });

  it.each([
    ['short', /10/],
    ['password123', /guessed|common|first/i],
    ['Qwertyuiop1!', /guessed|common|first/i],
    ['olga@example.org', /name|address/i],
    ['x'.repeat(201), /200/],
  ])('that protects nothing is refused: %s', (password, why) => {
    expect(passwordProblem(password, { email: 'olga@example.org', name: 'Olga' })).toMatch(why);
  });
});
