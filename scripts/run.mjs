import { spawn } from 'node:child_process';
import { Remedy } from './say.mjs';

/**
 * Runs a command to its end. Output is kept back and shown only when it fails. Returns standard
 * output. options: spawn options, plus `show` to let output through.
 */
export function run(command, words, { show = false, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, words, {
      stdio: ['ignore', show ? 'inherit' : 'pipe', show ? 'inherit' : 'pipe'],
      ...options,
    });
    let out = '';
    let all = '';
    child.stdout?.on('data', (data) => {
      out += data;
      all += data;
    });
    child.stderr?.on('data', (data) => (all += data));
    child.on('error', (error) =>
      reject(new Remedy(`${command} could not be run: ${error.message}`)),
    );
    child.on('exit', (code, signal) => {
      if (code === 0) resolve(out);
      else
        reject(
          new Remedy(
            `${command} ${words.slice(0, 3).join(' ')} ended with ${signal ?? code}\n${all.slice(-4000)}`,
          ),
        );
    });
  });
}
