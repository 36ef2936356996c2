import { useCallback, useEffect, useState } from 'react';
import { keep, readKept } from '../../store/kept';

const KEY = 'hanzai-pedal';

/** Keys that a value is made of are no pedals, nor those that leave or move. */
const TAKEN = /^([a-z0-9.,+-]|Escape|Tab|Backspace|Delete|Shift|Control|Alt|Meta|Arrow.*)$/i;

/** Whether a key can be a pedal: pedals send one key, which must not be part of a value. */
export const canBePedal = (key: string): boolean => !TAKEN.test(key);

export interface Pedal {
  /** The key that it sends; undefined where none was told. */
  readonly key: string | undefined;
  /** Whether the next key is taken for the pedal's. */
  readonly learning: boolean;
  readonly learn: () => void;
  readonly forget: () => void;
}

/**
 * A foot pedal: whatever key it sends counts as Enter. The browser keeps which. onPress: what a press
 * does.
 */
export function usePedal(onPress: () => void): Pedal {
  const [key, setKey] = useState(() => readKept(KEY));
  const [learning, setLearning] = useState(false);
  const choose = useCallback((next: string | undefined) => {
    setKey(next);
    keep(KEY, next);
  }, []);
  useEffect(() => {
    const hear = (event: KeyboardEvent): void => {
      if (learning) {
        event.preventDefault();
        event.stopPropagation();
        if (event.key === 'Escape') return setLearning(false);
        if (!canBePedal(event.key)) return;
        choose(event.key);
        setLearning(false);
      } else if (event.key === key && key !== 'Enter') {
        event.preventDefault();
        onPress();
      }
    };
    window.addEventListener('keydown', hear, true);
    return () => window.removeEventListener('keydown', hear, true);
  }, [key, learning, choose, onPress]);
  return { key, learning, learn: () => setLearning(true), forget: () => choose(undefined) };
}

/** Keeps the screen on while it is mounted, where the browser can. */
export function useScreenOn(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let wanted = true;
    const ask = (): void => {
      if (!('wakeLock' in navigator) || document.visibilityState !== 'visible') return;
      navigator.wakeLock.request('screen').then(
        (own) => {
          if (wanted) lock = own;
          else void own.release();
        },
        // Refused where the battery is low: the screen then goes off as it always does.
        () => undefined,
      );
    };
    ask();
    // It is let go whenever the page is out of sight.
    document.addEventListener('visibilitychange', ask);
    return () => {
      wanted = false;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, []);
}
