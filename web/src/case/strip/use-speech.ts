import { useEffect, useState } from 'react';
import SpeechRecognition, { useSpeechRecognition } from 'react-speech-recognition';
import { spokenLine } from './spoken';

export interface Speech {
  /** Whether this browser can hear. */
  readonly can: boolean;
  readonly listening: boolean;
  /** Why nothing is heard; undefined where nothing went wrong. */
  readonly failure: string | undefined;
  readonly listen: () => void;
  readonly stop: () => void;
}

/** Listens once, and gives what was heard as a line of the strip. Nothing is filed by it. */
export function useSpeech(onLine: (line: string) => void): Speech {
  const { browserSupportsSpeechRecognition, isMicrophoneAvailable, listening } =
    useSpeechRecognition({
      commands: [{ command: '*', callback: (heard: string) => onLine(spokenLine(heard)) }],
    });
  // The page as the server sends it knows no browser: what it cannot do yet shows once it lives.
  const [alive, setAlive] = useState(false);
  useEffect(() => {
    setAlive(true);
    return () => void SpeechRecognition.abortListening();
  }, []);
  return {
    can: alive && browserSupportsSpeechRecognition,
    listening,
    failure:
      alive && !isMicrophoneAvailable ? 'the microphone cannot be used on this page' : undefined,
    listen: () => void SpeechRecognition.startListening({ language: 'en' }),
    stop: () => void SpeechRecognition.stopListening(),
  };
}

/** Says something aloud, where the browser can; what was being said is cut off. */
export function sayAloud(words: string): void {
  if (!('speechSynthesis' in globalThis)) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}
