import { useCallback, useEffect, useRef, useState } from 'react';
import { powerOf } from '@hanzai/core/board';
import type { ReadingKind, ReadingValue } from '@hanzai/core/instrument';
import { formatCompact } from '@hanzai/core/quantity';
import type { ProposedPoints } from '../case/strip/grammar';
import type { Latched } from '../case/strip/Strip';
import type { BenchLink } from './bench-link';
import type { MeterLink } from './link';
import { LiveMeter, type LiveShown } from './live-meter';

/** How a meter is reached, and what the screen calls that. */
export interface MeterChoice {
  readonly title: string;
  readonly open: () => Promise<MeterLink | BenchLink>;
}

/** A meter on the line, as a screen sees it. */
export interface Live {
  readonly phase: 'off' | 'connecting' | 'live' | 'lost';
  /** Who it says it is, or what it was called before it said so. */
  readonly name: string;
  readonly shown: LiveShown | undefined;
  readonly trouble: string | undefined;
  /** Why it is gone. */
  readonly why: string | undefined;
  /** What it holds for the strip. */
  readonly latched: Latched | undefined;
  readonly connect: (choice: MeterChoice) => void;
  readonly disconnect: () => void;
  /** Takes what is shown now. */
  readonly take: () => void;
  /** Where it is a simulated bench: puts its probes where the next reading is asked. */
  readonly putProbes: (() => void) | undefined;
  /** Where it is a simulated bench: what is wrong with its board. */
  readonly hidden: readonly string[] | undefined;
}

/** Volts that probes in the air pick up. */
const IN_THE_AIR_VOLT = 0.02;

/** Whether a value is what probes in the air show: it is held only when somebody asks for it. */
export function isAir(kind: ReadingKind, value: ReadingValue): boolean {
  if (typeof value === 'number') return kind === 'voltage' && Math.abs(value) < IN_THE_AIR_VOLT;
  return value === 'OL' || value === 'open' || value === 'Z';
}

const asTyped = (value: ReadingValue): string =>
  typeof value === 'number' ? formatCompact(value, '') : value.toLowerCase();

const keyOf = (step: ProposedPoints | undefined): string =>
  step ? `${step.setup} ${step.kind} ${step.at} ${step.to}` : '';

/** Puts the probes of a simulated bench on points, its board in the state that they are read in. */
export async function probe(link: MeterLink, step: ProposedPoints): Promise<void> {
  const on = powerOf(step.setup) === 'on';
  await link.tell('ROUTe:OPEN');
  await link.tell(on ? `BENCh:SETup "${step.setup}";:BENCh:POWer ON` : 'BENCh:POWer OFF');
  await link.tell(`ROUTe:PROBe "${step.at}","${step.to || '0'}"`);
}

/** A meter that is read live, in the function that the next step asks for. */
export function useLive(step: ProposedPoints | undefined): Live {
  const [phase, setPhase] = useState<Live['phase']>('off');
  const [name, setName] = useState('');
  const [shown, setShown] = useState<LiveShown>();
  const [trouble, setTrouble] = useState<string>();
  const [why, setWhy] = useState<string>();
  const [latched, setLatched] = useState<Latched>();
  const [hidden, setHidden] = useState<readonly string[]>();
  const meter = useRef<LiveMeter>(undefined);
  const link = useRef<MeterLink>(undefined);
  const called = useRef('');
  const key = keyOf(step);
  const asked = useRef(step);
  asked.current = step;

  const hold = useCallback((value: ReadingValue) => {
    setLatched({ text: asTyped(value), instrument: called.current });
  }, []);

  const disconnect = useCallback(() => {
    meter.current?.close();
    meter.current = undefined;
    link.current = undefined;
    setPhase('off');
    setShown(undefined);
    setLatched(undefined);
    setTrouble(undefined);
    setHidden(undefined);
  }, []);

  const connect = useCallback(
    ({ title, open }: MeterChoice) => {
      disconnect();
      setPhase('connecting');
      setName(title);
      setWhy(undefined);
      called.current = title;
      const lost = (words: string): void => {
        setPhase('lost');
        setWhy(words);
        setShown(undefined);
        setLatched(undefined);
      };
      open().then(
        (opened) => {
          link.current = opened;
          setHidden('hidden' in opened ? opened.hidden : undefined);
          const own = new LiveMeter(opened, {
            onName: (said) => {
              called.current = said;
              setName(said);
              setPhase('live');
            },
            onShown: setShown,
            onSteady: (kind, value) => {
              if (!isAir(kind, value)) hold(value);
            },
            onTrouble: setTrouble,
            onLost: lost,
          });
          meter.current = own;
          own.want(asked.current?.kind, 'there');
          void own.run();
        },
        (error: unknown) => lost((error as Error).message),
      );
    },
    [disconnect, hold],
  );

  // Another step: another function, and the probes are still where they were.
  useEffect(() => {
    setLatched(undefined);
    meter.current?.want(asked.current?.kind, 'elsewhere');
  }, [key]);
  useEffect(() => () => meter.current?.close(), []);

  const putProbes = useCallback(() => {
    const { current: next } = asked;
    const own = link.current;
    if (!next || !own) return;
    setLatched(undefined);
    meter.current?.want(undefined, 'elsewhere');
    probe(own, next).then(
      () => meter.current?.want(next.kind, 'there'),
      (error: unknown) => setTrouble((error as Error).message),
    );
  }, []);
  const take = useCallback(() => {
    if (shown) hold(shown.value);
  }, [shown, hold]);

  return {
    phase,
    name,
    shown,
    trouble,
    why,
    latched,
    connect,
    disconnect,
    take,
    putProbes: hidden ? putProbes : undefined,
    hidden,
  };
}
