import { RateLimiterMemory, type RateLimiterRes } from 'rate-limiter-flexible';
import { HttpProblem } from '../http/problem';
import { tell } from '../tell';

const quarter = 15 * 60;
/** So often somebody may be wrong, in a quarter of an hour: about one person from one place, and about anybody from there. */
const most = { pair: 10, address: 100 };
/** After so many wrong tries from wherever, an answer about a person waits a little: nobody can be locked out by others. */
const freeTries = 20;
const slowest = 2000;

/** Slows down and limits those who guess passwords. */
export class Tries {
  private readonly pairs = new RateLimiterMemory({ points: most.pair, duration: quarter });
  private readonly addresses = new RateLimiterMemory({ points: most.address, duration: quarter });
  private readonly people = new RateLimiterMemory({ points: 1_000_000, duration: quarter });

  /** Throws 429 for whoever has been wrong too often, and waits where many were. */
  async before(email: string, address: string): Promise<void> {
    const [pair, place, person] = await Promise.all([
      this.pairs.get(`${address} ${email}`),
      this.addresses.get(address),
      this.people.get(email),
    ]);
    const over = (found: RateLimiterRes | null, limit: number) => (found?.consumedPoints ?? 0) >= limit;
    const late = [over(pair, most.pair) && pair, over(place, most.address) && place].find(
      (found): found is RateLimiterRes => Boolean(found),
    );
    if (late) {
      const seconds = Math.ceil(late.msBeforeNext / 1000);
      throw new HttpProblem(
        429,
        'too-many-tries',
        tell('people.tooManyTries', { n: Math.ceil(seconds / 60) }),
        {},
        { 'retry-after': String(seconds) },
      );
    }
    const wrong = (person?.consumedPoints ?? 0) - freeTries;
    if (wrong > 0) await new Promise((go) => setTimeout(go, Math.min(slowest, 100 * wrong)));
  }

  async wrong(email: string, address: string): Promise<void> {
    const count = (limiter: RateLimiterMemory, key: string) => limiter.consume(key).catch(() => {});
    await Promise.all([
      count(this.pairs, `${address} ${email}`),
      count(this.addresses, address),
      count(this.people, email),
    ]);
  }

  async right(email: string, address: string): Promise<void> {
    await this.pairs.delete(`${address} ${email}`);
  }
}
