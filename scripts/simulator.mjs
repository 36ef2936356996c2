// The general circuit simulator (Debian package ngspice) that the scripts with reference values
// ask.
import { execFileSync } from 'node:child_process';

/**
 * Runs a deck in batch mode and returns what it prints. seconds: the longest it may take; it throws
 * beyond.
 */
export function runDeck(file, seconds = undefined) {
  return execFileSync('ngspice', ['-b', file], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
    ...(seconds ? { timeout: 1000 * seconds, killSignal: 'SIGKILL' } : {}),
  });
}

/**
 * What `print all` shows of the nodes: [name, value] pairs; a name with # is a branch or an inner
 * node.
 */
export function printedNodes(out) {
  return [...out.matchAll(/^(\S+) = (\S+)$/gm)]
    .filter(([, name]) => !name.includes('#'))
    .map(([, name, value]) => [name, Number(value)]);
}

/** Its name and version, as the files of reference values state them. */
export function simulatorVersion() {
  return /ngspice-\d+/.exec(execFileSync('ngspice', ['--version'], { encoding: 'utf8' }))?.[0];
}
