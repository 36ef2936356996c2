import { demoBoard } from '@hanzai/data/demo';
import { describe, expect, it, vi } from 'vitest';
import { Engine } from '../workers/engine';
import type { AssessRequest, EngineEvent, LineUp } from '../workers/engine-messages';
import { beliefChanges, lineUpOn } from './belief-on';
import type { EngineLink } from './engine-link';

const lineUp = (shares: Readonly<Record<string, number>>): LineUp =>
  ({
    entries: Object.entries(shares).map(([ref, probability]) => ({ ref, probability })),
  }) as unknown as LineUp;
const REQUEST: AssessRequest = {
  ticket: 1,
  readings: [
    { id: 'a', setup: 'on', kind: 'voltage', at: 'VM', to: '', value: 0.01, absent: [] },
    { id: 'b', setup: 'on', kind: 'voltage', at: 'P5', to: '', value: 5.01, absent: [] },
  ],
  absent: [],
  look: {},
};

describe('what another version of a sheet changes in the belief', () => {
  it('names the parts whose share moved, the largest change first, gone and new ones too', () => {
    expect(
      beliefChanges(
        lineUp({ F1: 0.5, L1: 0.3, C4: 0.1, R1: 0.01 }),
        lineUp({ F1: 0.1, L1: 0.31, D9: 0.5, R1: 0.02 }),
      ),
    ).toEqual([
      { ref: 'D9', before: 0, after: 0.5 },
      { ref: 'F1', before: 0.5, after: 0.1 },
      { ref: 'C4', before: 0.1, after: 0 },
    ]);
  });

  const link = (
    assess: (request: unknown, send: (event: EngineEvent) => void) => Promise<void>,
  ) => {
    const close = vi.fn();
    const open = () => Promise.resolve({ door: { assess }, close } as unknown as EngineLink);
    return { open, close };
  };
  it('waits for the whole line-up, and shuts the door again', async () => {
    const engine = new Engine(demoBoard('cr40'));
    const { open, close } = link((request, send) =>
      engine.assess(request, { send, pause: () => Promise.resolve(), stale: () => false }),
    );
    const found = await lineUpOn(demoBoard('cr40'), REQUEST, open);
    expect(found.refining).toBeUndefined();
    expect(found.entries[0]!.ref).toBe('F1');
    expect(close).toHaveBeenCalledOnce();
  });
  it('says so where the engine breaks, fails or gives none', async () => {
    const silent = link(() => Promise.resolve());
    await expect(lineUpOn(demoBoard('cr40'), REQUEST, silent.open)).rejects.toThrow(/no line-up/);
    expect(silent.close).toHaveBeenCalledOnce();
    const failing = link(() => Promise.reject(new Error('out of memory')));
    await expect(lineUpOn(demoBoard('cr40'), REQUEST, failing.open)).rejects.toThrow(/memory/);
    const hanging = (_: unknown, fail: (error: unknown) => void) => {
      setTimeout(() => fail(new Error('the worker broke')), 5);
      return Promise.resolve({
        door: { assess: () => new Promise(() => undefined) },
        close: () => undefined,
      } as unknown as EngineLink);
    };
    await expect(lineUpOn(demoBoard('cr40'), REQUEST, hanging)).rejects.toThrow(/broke/);
  });
});
