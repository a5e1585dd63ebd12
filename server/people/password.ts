import { hash, verify } from '@node-rs/argon2';
import { dictionary } from '@zxcvbn-ts/language-common';
import { tell } from '../tell';
import { newToken } from './tokens';

/** As OWASP advises for argon2id, which it is without saying so (Password Storage Cheat Sheet): 19 MiB, two passes, one lane. */
const cost = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const fewestLetters = 10;
export const mostLetters = 200;

const common = new Set(
  (dictionary as Record<string, string[]>)['passwords-common']!.map((each) => each.toLowerCase()),
);

/** Why a password is none that protects anything, in words; null where it is good enough. */
export function passwordProblem(
  password: string,
  { email, name }: { email: string; name: string },
): string | null {
  if ([...password].length < fewestLetters) return tell('people.shortPassword', { n: fewestLetters });
  if (password.length > mostLetters) return tell('people.longPassword', { n: mostLetters });
  const plain = password.toLowerCase().trim();
  // What is added to a common one is guessed with it.
  if (common.has(plain) || common.has(plain.replace(/[\d\W_]+$/, ''))) return tell('people.commonPassword');
  const own = [email, email.split('@')[0]!, name, 'sorvik'].map((each) => each.toLowerCase());
  if (own.some((each) => each.length > 3 && plain.replace(each, '').length < 6))
    return tell('people.ownPassword');
  return null;
}

export const hashPassword = (password: string): Promise<string> => hash(password.normalize('NFC'), cost);

let nobodys: Promise<string> | undefined;

/**
 * Whether a password is the one that was kept. Where there is none it takes as long and says no: the time does not tell who is
 * known here.
 */
export async function isPassword(
  kept: string | null,
  password: string,
  check: typeof verify = verify,
): Promise<boolean> {
  nobodys ??= hashPassword(newToken());
  const matches = await check(kept ?? (await nobodys), password.normalize('NFC').slice(0, 4 * mostLetters));
  return matches && kept !== null;
}
