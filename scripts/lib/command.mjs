import { spawn } from 'node:child_process';

/**
 * Runs a command to its end. Resolves to its output; rejects with that output when it fails. `show` lets it write to
 * the terminal instead.
 */
export function command(name, args, { show = false, input, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(name, args, { stdio: show ? 'inherit' : ['pipe', 'pipe', 'pipe'], ...options });
    let output = '';
    child.stdout?.on('data', (chunk) => {
      output += chunk;
    });
    child.stderr?.on('data', (chunk) => {
      output += chunk;
    });
    child.stdin?.end(input);
    child.on('error', reject);
    child.on('close', (code) => {
      if (code === 0) resolve(output);
      else
        reject(
          Object.assign(new Error(`${name} ${args.join(' ')} ended with ${code}\n${output.trim()}`), {
            code,
            output,
          }),
        );
    });
  });
}
