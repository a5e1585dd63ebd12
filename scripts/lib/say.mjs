/** Lines for the person at the terminal. */
export const say = (text) => process.stdout.write(`${text}\n`);

/** An error whose message is all the reader needs: no stack is printed. */
export class Refusal extends Error {}

/** Runs `main`; a Refusal ends with its message alone, anything else with its stack. */
export async function run(main) {
  try {
    await main();
  } catch (error) {
    process.stderr.write(`\n${error instanceof Refusal ? error.message : (error?.stack ?? error)}\n`);
    process.exit(1);
  }
}
