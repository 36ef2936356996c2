import { describe, expect, it, vi } from 'vitest';
import { askAgain } from './ask-again';

// A question that a newer request let go is asked again by whoever still wants it.

const none = (): Promise<void> => Promise.resolve();

describe('asking until there is an answer', () => {
  it('asks once where it is answered', async () => {
    const ask = vi.fn(() => Promise.resolve('C3'));
    expect(await askAgain(ask, () => true, none)).toBe('C3');
    expect(ask).toHaveBeenCalledTimes(1);
  });
  it('asks again while it is let go', async () => {
    const answers = [undefined, undefined, 'C3'];
    expect(
      await askAgain(
        () => Promise.resolve(answers.shift()),
        () => true,
        none,
      ),
    ).toBe('C3');
    expect(answers).toEqual([]);
  });
  it('asks no more once nobody wants it, and not at all where nobody did', async () => {
    let wanted = 2;
    const ask = vi.fn(() => Promise.resolve(undefined));
    expect(await askAgain(ask, () => wanted-- > 0, none)).toBeUndefined();
    expect(ask).toHaveBeenCalledTimes(2);
    await askAgain(ask, () => false, none);
    expect(ask).toHaveBeenCalledTimes(2);
  });
  it('gives up on an engine that never comes to it, and passes a failure on', async () => {
    const ask = vi.fn(() => Promise.resolve(undefined));
    expect(await askAgain(ask, () => true, none)).toBeUndefined();
    expect(ask.mock.calls.length).toBeLessThan(100);
    await expect(
      askAgain(
        () => Promise.reject(new Error('stopped')),
        () => true,
        none,
      ),
    ).rejects.toThrow('stopped');
  });
});
