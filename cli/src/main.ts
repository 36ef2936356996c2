import { InputError, UsageError } from './arguments';
import { fit } from './fit';
import { practice } from './practice';
import { simulate } from './simulate';
import { convert, diagnoseBoard, next, read, solve, survey, symptoms, type Output } from './verbs';

const VERBS: Readonly<Record<string, (words: readonly string[]) => Output>> = {
  solve,
  read,
  diagnose: diagnoseBoard,
  next,
  survey,
  symptoms,
  fit,
  convert,
};

const USAGE = `hanzai: from the symptom to the proven repair, on the command line

  hanzai solve BOARD [--setup on|off] [--fault REF:mode]… [--steps FILE]
  hanzai read BOARD KIND AT [TO] [--fault REF:mode]…
  hanzai diagnose BOARD --readings FILE [--context FILE]
  hanzai survey BOARD --readings FILE        (BOARD may be a parts list)
  hanzai next BOARD [--readings FILE] [--allow voltage,esr,…] [--top N] [--context FILE]
  hanzai symptoms BOARD [--top N]
  hanzai fit --was TEXT --offer TEXT [--volts V] [--role decoupling|filter|coupling|servo|timing|safety] [--room h=…,d=…,pitch=…]
  hanzai fit BOARD REF --offer TEXT          (TEXT as people write it: "10u 16V electrolytic 105C", "T1A 250V", "74HCT86")
  hanzai simulate BOARD --port N [--fault REF:mode[=VALUE]]… [--setup S] [--seed N] [--slips] [--exact]
  hanzai practice BOARD [--seed N] [--level 1 to 8] [--within NET]
  hanzai convert IN OUT        (.json .cir .ipc .csv .sheet; reads .net .tdx too)

  --context names a JSON file with what is known of the unit: unit, complaint, patterns, stage, codes, starts.
  --json prints one JSON object. KIND is voltage, resistance, continuity, diode, esr, logic, current or symptom.
`;

/** Runs one command. Returns the exit status: 0 done, 1 bad input, 2 usage. */
export async function main(words: readonly string[]): Promise<number> {
  const [verb, ...rest] = words;
  if (verb === undefined || verb === 'help' || verb === '--help' || verb === '-h') {
    process.stdout.write(USAGE);
    return verb === undefined ? 2 : 0;
  }
  const run = Object.hasOwn(VERBS, verb) ? VERBS[verb] : undefined;
  try {
    if (verb === 'simulate') return await simulate(rest);
    if (verb === 'practice') return await practice(rest);
    if (!run)
      throw new UsageError(
        `unknown verb "${verb}"; expected ${[...Object.keys(VERBS), 'simulate', 'practice'].join(', ')}`,
      );
    const output = run(rest);
    process.stdout.write(
      `${rest.includes('--json') ? JSON.stringify(output.json) : output.text}\n`,
    );
    return 0;
  } catch (error) {
    if (error instanceof UsageError) {
      process.stderr.write(`hanzai: ${error.message}\n`);
      return 2;
    }
    if (error instanceof InputError) {
      process.stderr.write(`${error.message}\n`);
      return 1;
    }
    throw error;
  }
}
