import { useCallback, useEffect, useRef, useState } from 'react';
import { spokenLine } from './spoken';

/** What browsers that hear have; none of it is in the DOM's types. */
interface Recognition {
  lang: string;
  interimResults: boolean;
  onresult:
    ((event: { readonly results: ArrayLike<ArrayLike<{ transcript: string }>> }) => void) | null;
  onerror: ((event: { readonly error: string }) => void) | null;
  onend: (() => void) | null;
  start(): void;
  abort(): void;
}
type Maker = new () => Recognition;

const maker = (): Maker | undefined => {
  const own = globalThis as { SpeechRecognition?: Maker; webkitSpeechRecognition?: Maker };
  return own.SpeechRecognition ?? own.webkitSpeechRecognition;
};

export interface Speech {
  /** Whether this browser can hear. */
  readonly can: boolean;
  readonly listening: boolean;
  /** Why nothing was heard; undefined where nothing went wrong. */
  readonly failure: string | undefined;
  readonly listen: () => void;
  readonly stop: () => void;
}

/** Listens once, and gives what was heard as a line of the strip. Nothing is filed by it. */
export function useSpeech(onLine: (line: string) => void): Speech {
  const [can, setCan] = useState(false);
  const [listening, setListening] = useState(false);
  const [failure, setFailure] = useState<string>();
  const running = useRef<Recognition>(undefined);
  useEffect(() => {
    setCan(maker() !== undefined);
    return () => running.current?.abort();
  }, []);
  const listen = useCallback(() => {
    const Make = maker();
    if (!Make) return;
    running.current?.abort();
    const own = new Make();
    running.current = own;
    own.lang = 'en';
    own.interimResults = false;
    own.onresult = ({ results }) => onLine(spokenLine(results[results.length - 1]![0]!.transcript));
    own.onerror = ({ error }) => setFailure(`nothing was heard (${error.replace(/-/g, ' ')})`);
    own.onend = () => setListening(false);
    setFailure(undefined);
    setListening(true);
    try {
      own.start();
    } catch {
      setListening(false);
      setFailure('the microphone cannot be used here');
    }
  }, [onLine]);
  const stop = useCallback(() => running.current?.abort(), []);
  return { can, listening, failure, listen, stop };
}

/** Says something aloud, where the browser can; what was being said is cut off. */
export function sayAloud(words: string): void {
  if (!('speechSynthesis' in globalThis)) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}
