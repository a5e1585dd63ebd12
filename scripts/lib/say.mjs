/** Lines for the person at the terminal. */
export const say = (text) => process.stdout.write(`${text}\n`);

/** An error whose message is all the reader needs: no stack is printed. */
export class Refusal extends Error {}

/** The oldest Node that this works with. */
const oldest = [20, 19];

function ensureNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < oldest[0] || (major === oldest[0] && minor < oldest[1]))
    throw new Refusal(
      `Sorvik needs Node ${oldest.join('.')} or newer, and this is ${process.versions.node}. Install a newer one, then try again.`,
    );
}

/** A sentence for errors of the machine that everybody may meet; undefined for others. */
function machineText(error) {
  const text = `${error?.code ?? ''} ${error?.message ?? ''} ${error?.output ?? ''}`;
  if (/ENOSPC|No space left on device/.test(text))
    return `There is no room left on the disk${error.path ? ` (${error.path})` : ''}. Free some space, then try again.`;
  if (/\bE(ACCES|PERM|ROFS)\b/.test(error?.code ?? ''))
    return `${error.path ?? 'A file'} cannot be used by this user (${error.code}).`;
  return undefined;
}

/** What the person at the terminal is told of an error: one sentence wherever there is one. */
export const errorText = (error) =>
  error instanceof Refusal ? error.message : (machineText(error) ?? error?.stack ?? String(error));

/** Runs `main`; a Refusal ends with its message alone, anything else that nobody foresaw with its stack. */
export async function run(main) {
  try {
    ensureNode();
    await main();
  } catch (error) {
    process.stderr.write(`\n${errorText(error)}\n`);
    process.exit(1);
  }
}
