import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';

const cipher = 'aes-256-gcm';
const keyBytes = 32;

/** A text that was sealed with another key, or for something else. */
export class Unreadable extends Error {
  constructor(cause: unknown) {
    super('The text was sealed with another key.', { cause });
  }
}

/** Seals texts with a key that lies in a file of its own: whoever has the database alone can read none of them. */
export class Secrets {
  private key: Promise<Buffer> | null = null;

  constructor(private readonly file: string) {}

  /** The key; made where there is none yet. */
  private readKey(): Promise<Buffer> {
    const read = async () => Buffer.from((await readFile(this.file, 'utf8')).trim(), 'base64');
    this.key ??= read()
      .catch(async (error: { code?: string }) => {
        if (error.code !== 'ENOENT') throw error;
        const made = `${randomBytes(keyBytes).toString('base64')}\n`;
        // Two servers may begin at once: the first one's key is it.
        await writeFile(this.file, made, { mode: 0o600, flag: 'wx' }).catch(() => {});
        return read();
      })
      .catch((error) => {
        this.key = null;
        throw error;
      });
    return this.key;
  }

  /** `owner` names what the text belongs to: it can be opened for that alone. */
  async seal(text: string, owner: string): Promise<string> {
    const start = randomBytes(12);
    const sealing = createCipheriv(cipher, await this.readKey(), start).setAAD(Buffer.from(owner));
    const sealed = Buffer.concat([sealing.update(text, 'utf8'), sealing.final()]);
    return Buffer.concat([start, sealing.getAuthTag(), sealed]).toString('base64');
  }

  /** Throws `Unreadable` where the key is another one, or the text was tampered with. */
  async open(sealed: string, owner: string): Promise<string> {
    try {
      const bytes = Buffer.from(sealed, 'base64');
      const opening = createDecipheriv(cipher, await this.readKey(), bytes.subarray(0, 12))
        .setAAD(Buffer.from(owner))
        .setAuthTag(bytes.subarray(12, 28));
      return Buffer.concat([opening.update(bytes.subarray(28)), opening.final()]).toString('utf8');
    } catch (error) {
      throw new Unreadable(error);
    }
  }
}
