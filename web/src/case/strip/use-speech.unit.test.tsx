// @vitest-environment happy-dom
import { act, cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';

/** A browser that hears: what is said comes when the test says it. */
class FakeRecognition {
  static last: FakeRecognition | undefined;
  onresult: ((event: unknown) => void) | null = null;
  onend: (() => void) | null = null;
  onerror: ((event: { error: string }) => void) | null = null;
  interimResults = false;
  continuous = false;
  lang = '';
  constructor() {
    FakeRecognition.last = this;
  }
  start(): void {}
  stop(): void {
    this.onend?.();
  }
  abort(): void {
    this.onend?.();
  }
  hear(words: string): void {
    // Whatever field is asked for, the words stand there.
    const best = new Proxy({}, { get: () => words });
    const heard = Object.assign([best], { isFinal: true });
    this.onresult?.({ results: [heard], resultIndex: 0 });
    this.onend?.();
  }
}
// The package looks once, when it is loaded, whether the browser can hear.
Object.assign(window, { SpeechRecognition: FakeRecognition });
const { useSpeech } = await import('./use-speech');

function bench(onLine: (line: string) => void): void {
  function Bench() {
    const { can, listening, failure, listen, stop } = useSpeech(onLine);
    return (
      <>
        <p>{can ? 'can hear' : 'cannot hear'}</p>
        <p>{listening ? 'listening' : 'quiet'}</p>
        <p>{failure ?? 'no failure'}</p>
        <button onClick={listen}>listen</button>
        <button onClick={stop}>stop</button>
      </>
    );
  }
  render(<Bench />);
}
const press = (name: string): Promise<void> =>
  act(async () => screen.getByText(name, { selector: 'button' }).click());

afterEach(cleanup);

describe('a reading that is said', () => {
  it('comes as a line of the strip, once, and files nothing itself', async () => {
    const onLine = vi.fn();
    bench(onLine);
    expect(screen.getByText('can hear')).toBeTruthy();
    await press('listen');
    expect(screen.getByText('listening')).toBeTruthy();
    await act(async () => FakeRecognition.last!.hear('see six one point oh three e s r'));
    expect(onLine.mock.calls).toEqual([['c6 1.03 esr']]);
    expect(screen.getByText('quiet')).toBeTruthy();
  });
  it('says so where the microphone is refused', async () => {
    bench(vi.fn());
    await press('listen');
    await act(async () => FakeRecognition.last!.onerror?.({ error: 'not-allowed' }));
    expect(screen.getByText('the microphone cannot be used on this page')).toBeTruthy();
  });
});
