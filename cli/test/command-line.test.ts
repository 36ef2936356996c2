import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { beforeAll, describe, expect, it } from 'vitest';

const run = promisify(execFile);
const root = new URL('../../', import.meta.url).pathname;
const folder = mkdtempSync(join(tmpdir(), 'hanzai-cli-'));
const deck = join(folder, 'board.cir');
const readings = join(folder, 'readings.csv');

interface Result {
  status: number;
  out: string;
  err: string;
}

async function hanzai(...words: string[]): Promise<Result> {
  try {
    const { stdout, stderr } = await run(
      process.execPath,
      [join(root, 'cli/bin/hanzai.mjs'), ...words],
      { cwd: root },
    );
    return { status: 0, out: stdout, err: stderr };
  } catch (error) {
    const { code, stdout, stderr } = error as { code: number; stdout: string; stderr: string };
    return { status: code, out: stdout, err: stderr };
  }
}

beforeAll(() => {
  writeFileSync(
    deck,
    'small board\nV1 VIN 0 9\nXF1 VIN VM FUSE\nL1 VM VD 47u\n*@ L1 dcr=0.4\nC1 VD 0 47u\n*@ C1 kind=electrolytic esr=0.3\nR1 VD 0 100\n.op\n.end\n',
  );
  writeFileSync(
    readings,
    'setup,kind,at,to,value,unit\non,voltage,VD,,0.0,V\noff,continuity,F1.1,F1.2,open\n',
  );
});

describe('the command line', () => {
  it('solve prints every net', async () => {
    const { status, out, err } = await hanzai('solve', deck, '--json');
    expect([status, err]).toEqual([0, `${deck}: note: line 9: .op skipped\n`]);
    const result = JSON.parse(out) as { setup: string; nets: Record<string, number> };
    expect(result.setup).toBe('on');
    expect(Object.keys(result.nets).sort()).toEqual(['0', 'VD', 'VIN', 'VM']);
    expect(result.nets.VD).toBeCloseTo((9 * 100) / 100.45, 6);
    expect(JSON.parse((await hanzai('solve', deck, '--setup', 'off', '--json')).out)).toEqual({
      setup: 'off',
      nets: { VIN: 0, '0': 0, VM: 0, VD: 0 },
    });
  });
  it('read prints value, unit, band and display, under a fault too', async () => {
    const healthy = JSON.parse(
      (await hanzai('read', deck, 'resistance', 'VD', '--json')).out,
    ) as Record<string, unknown>;
    expect(healthy).toMatchObject({
      kind: 'resistance',
      at: 'VD',
      to: '',
      unit: 'ohm',
      display: '100.0 Ω',
    });
    expect(
      JSON.parse(
        (await hanzai('read', deck, 'esr', 'C1.1', 'C1.2', '--fault', 'C1:high-esr', '--json')).out,
      ),
    ).toMatchObject({
      kind: 'esr',
      z: { re: expect.any(Number) as number },
    });
    expect(
      JSON.parse(
        (await hanzai('read', deck, 'continuity', 'F1.1', 'F1.2', '--fault', 'F1:open', '--json'))
          .out,
      ),
    ).toMatchObject({
      value: 'open',
      display: 'open',
    });
  });
  it('diagnose and next print suspects and what to do', async () => {
    const belief = JSON.parse(
      (await hanzai('diagnose', deck, '--readings', readings, '--json')).out,
    ) as {
      suspects: { faults: string[] }[];
      byPart: { ref: string; probability: number }[];
      healthy: number;
      unmodelled: number;
    };
    expect(belief.suspects[0]!.faults).toEqual(['F1:open']);
    expect(belief.byPart.map((p) => p.ref).sort()).toEqual(['C1', 'F1', 'L1', 'R1']);
    const plan = JSON.parse(
      (await hanzai('next', deck, '--readings', readings, '--json', '--top', '2')).out,
    ) as {
      state: string;
      replace: { ref: string }[];
      measurements: unknown[];
    };
    expect(plan.state).toBe('replace');
    expect(plan.replace[0]!.ref).toBe('F1');
    expect((await hanzai('next', deck, '--allow', 'voltage', '--json')).out).not.toContain(
      'resistance',
    );
  });
  it('convert reads netlists of other programs and says what it made of each part', async () => {
    const from = join(root, 'core/test/netlists/reset-corner.tdx');
    const to = join(folder, 'corner.sheet');
    const { status, out } = await hanzai('convert', from, to, '--json');
    expect(status).toBe(0);
    const { parts, report } = JSON.parse(out) as {
      parts: number;
      report: { ref: string; became: string }[];
    };
    expect(parts).toBe(9);
    expect(report.filter(({ became }) => became === 'box').map(({ ref }) => ref)).toEqual([
      'D1',
      'D2',
      'J1',
      'Q1',
    ]);
    expect((await hanzai('convert', to, join(folder, 'corner.json'))).status).toBe(0);
    // Forms that are only read are not written by mistake.
    const refused = await hanzai('convert', to, join(folder, 'corner.net'));
    expect(refused.status).toBe(1);
    expect(refused.err).toContain('expected a name ending in');
  });

  it('convert goes to JSON and back', async () => {
    const [json, back] = [join(folder, 'b.json'), join(folder, 'back.cir')];
    expect((await hanzai('convert', deck, json)).status).toBe(0);
    expect((await hanzai('convert', json, back)).status).toBe(0);
    expect((await hanzai('solve', back, '--json')).out).toBe(
      (await hanzai('solve', deck, '--json')).out,
    );
    for (const ending of ['ipc', 'csv'])
      expect((await hanzai('convert', deck, join(folder, `b.${ending}`))).status).toBe(0);
    expect(readFileSync(join(folder, 'b.csv'), 'utf8')).toContain('L1,inductor,47u');
  });
  it('ends with 1 for bad input, naming file and line, and with 2 for bad usage', async () => {
    const bad = join(folder, 'bad.cir');
    writeFileSync(bad, 't\nXU7 A B NOSUCH\n.end');
    expect(await hanzai('solve', bad)).toMatchObject({
      status: 1,
      out: '',
      err: expect.stringContaining(
        `${bad}: line 2: U7: NOSUCH is not in the device library`,
      ) as string,
    });
    expect(await hanzai('solve', join(folder, 'none.cir'))).toMatchObject({
      status: 1,
      err: expect.stringContaining('cannot be read') as string,
    });
    expect(await hanzai('read', deck, 'voltage', 'NOPE')).toMatchObject({
      status: 1,
      err: expect.stringContaining('no net or pin "NOPE"') as string,
    });
    expect(await hanzai('solve', deck, '--fault', 'F1:leaky')).toMatchObject({
      status: 1,
      err: expect.stringContaining('expected one of open') as string,
    });
    expect((await hanzai('solve')).status).toBe(2);
    expect((await hanzai('measure', deck)).status).toBe(2);
    expect((await hanzai('solve', deck, '--nonsense')).status).toBe(2);
    // Seven processes: a busy machine starts them slowly.
  });
});
