import { describe, expect, it } from 'vitest';
import type { ReadingKind, ReadingValue } from '@hanzai/core/instrument';
import { LinkLost, LinkSlow, within, type MeterLink } from './link';
import { LiveMeter, type LiveShown } from './live-meter';
import { nameOf, readingOf } from './spoken';
import { SteadyHold } from './steady';

/** An instrument that gives these answers to READ?, the last one over and over. */
function instrument(
  answers: readonly (string | Error)[],
  options: { idn?: string; error?: string } = {},
) {
  const told: string[] = [];
  let read = 0;
  const link: MeterLink = {
    tell: (message) => {
      told.push(message);
      return Promise.resolve();
    },
    ask: async (message) => {
      await Promise.resolve();
      if (message === '*IDN?') return options.idn ?? 'Maker,Meter 1,0,1';
      if (message === 'SYSTem:ERRor?') return options.error ?? '+0,"No error"';
      const answer = answers[Math.min(read, answers.length - 1)]!;
      read += 1;
      if (read > answers.length + 6) await new Promise((resolve) => setTimeout(resolve, 5));
      if (answer instanceof Error) throw answer;
      return answer;
    },
    close: () => told.push('closed'),
  };
  return { link, told };
}

/** Runs a meter until it has shown so many values, or is lost. */
async function watch(
  link: MeterLink,
  kind: ReadingKind,
  most = 12,
  then?: (meter: LiveMeter, n: number) => void,
) {
  const shown: (LiveShown | undefined)[] = [];
  const steady: ReadingValue[] = [];
  const troubles: (string | undefined)[] = [];
  let name = '';
  let lost: string | undefined;
  let now = 0;
  const meter = new LiveMeter(
    link,
    {
      onName: (said) => (name = said),
      onShown: (one) => {
        shown.push(one);
        now += 300;
        then?.(meter, shown.length);
        if (shown.length >= most) meter.close();
      },
      onSteady: (_, value) => steady.push(value),
      onTrouble: (words) => troubles.push(words),
      onLost: (why) => (lost = why),
    },
    1,
    () => now,
  );
  meter.want(kind, 'there');
  await meter.run();
  return { shown, steady, troubles, name, lost };
}

describe('a live meter', () => {
  it('is set to what is asked, shows it, and tells once when it has come to rest', async () => {
    const { link, told } = instrument(['+2.1E+00', '+7.9E+00', '+8.96E+00', '+8.97E+00']);
    const seen = await watch(link, 'voltage');
    expect(seen.name).toBe('Maker Meter 1');
    expect(told[0]).toBe('*CLS;:CONFigure:VOLTage:DC');
    expect(seen.steady).toEqual([8.97]);
    expect(seen.shown[0]).toMatchObject({ value: 2.1, isAtRest: false });
    expect(seen.shown.at(-1)).toMatchObject({ value: 8.97, isAtRest: true });
    expect(told.at(-1)).toBe('closed');
  });
  it('changes its function with what is asked next, and takes no answer to the old question', async () => {
    const { link, told } = instrument(['+1.0E+00']);
    const kinds: (string | undefined)[] = [];
    const seen = await watch(link, 'voltage', 10, (meter, n) => {
      if (n === 4) meter.want('resistance', 'there');
    });
    seen.shown.forEach((one) => kinds.push(one?.kind));
    expect(told.filter((line) => line.includes('CONF'))).toHaveLength(2);
    expect(kinds.slice(4).every((kind) => kind === 'resistance')).toBe(true);
    expect(seen.steady).toHaveLength(2);
  });
  it('tells again after the probes have moved to the same value', async () => {
    const { link } = instrument(['+1.0E+00']);
    const seen = await watch(link, 'voltage', 12, (meter, n) => {
      if (n === 6) meter.want('voltage', 'there');
    });
    expect(seen.steady).toEqual([1, 1]);
  });
  it('does not take what the probes still lie on for the next place', async () => {
    const values = [...Array<string>(8).fill('+5E+00'), ...Array<string>(6).fill('+3E+00')];
    const seen = await watch(instrument(values).link, 'voltage', 14, (meter, n) => {
      if (n === 5) meter.want('voltage', 'elsewhere');
    });
    expect(seen.steady).toEqual([5, 3]);
  });
  it.each([
    ['garbled', ['#!x', '+8.9E+00'], /"#!x", which is no reading/],
    ['half', ['+8.9E', '+8.9E+00'], /no reading/],
    ['two at once', ['+8.9E+00,+8.8E+00', '+8.9E+00'], /no reading/],
    ['slow', [new LinkSlow('no answer for 6 s'), '+8.9E+00'], /slow: no answer for 6 s/],
  ])('says that an answer is %s, files nothing of it, and goes on', async (_, answers, words) => {
    const seen = await watch(instrument(answers).link, 'voltage');
    expect(seen.troubles.filter(Boolean)[0]).toMatch(words);
    expect(seen.shown[0]).toBeUndefined();
    expect(seen.steady).toEqual([8.9]);
    expect(seen.lost).toBeUndefined();
  });
  it('never calls garbage steady, however long it lasts', async () => {
    const seen = await watch(instrument(['nonsense']).link, 'resistance', 30);
    expect(seen.steady).toEqual([]);
    const lying = await watch(instrument(['-5.0E+01']).link, 'resistance', 30);
    expect(lying.steady).toEqual([]);
    expect(lying.troubles[1]).toMatch(/ohms below nothing/);
  });
  it('is lost when it is unplugged, and says what it is when it is no instrument', async () => {
    const gone = await watch(
      instrument(['+1E+00', new LinkLost('the instrument was unplugged')]).link,
      'voltage',
    );
    expect(gone.lost).toBe('the instrument was unplugged');
    const modem = await watch(instrument([], { idn: 'OK' }).link, 'voltage');
    expect(modem.lost).toMatch(/says "OK".*no instrument/);
  });
  it('says where it does not have the function, and shows nothing', async () => {
    const { link } = instrument(['+1E+00'], { error: '-113,"Undefined header"' });
    const seen = await watch(link, 'esr', 2);
    expect(seen.troubles[0]).toMatch(/does not measure this: -113/);
    expect(seen.shown.every((one) => one === undefined)).toBe(true);
  });
});

describe('coming to rest', () => {
  const run = (values: readonly ReadingValue[], unit: 'V' | 'ohm' | '' = 'V', step = 400) => {
    const hold = new SteadyHold(unit);
    return values.map((value, i) => hold.see(value, i * step)).filter((v) => v !== undefined);
  };
  it('takes three alike and the better part of a second', () => {
    expect(run([5, 5])).toEqual([]);
    expect(run([5, 5, 5])).toEqual([5]);
    expect(run([5, 5, 5], 'V', 100)).toEqual([]);
  });
  it('is not a slow climb, nor a value that jumps', () => {
    expect(run([1, 1.02, 1.04, 1.06, 1.08, 1.1, 1.12, 1.14])).toEqual([]);
    expect(run([1, 5, 1, 5, 1, 5, 1])).toEqual([]);
  });
  it('is told once while the probe stays, and again when it comes back', () => {
    expect(run([5, 5, 5, 5, 5, 5, 0, 0, 0, 5, 5, 5])).toEqual([5, 0, 5]);
  });
  it('holds near nothing, for OL and for levels', () => {
    expect(run([0.0004, -0.0006, 0.0002])).toEqual([0.0002]);
    expect(run(['OL', 'OL', 'OL'], 'ohm')).toEqual(['OL']);
    expect(run(['1', '0', '1', 'P', 'P', 'P'], '')).toEqual(['P']);
    expect(run([0, 0, 'OL', 'OL'], 'ohm')).toEqual([]);
  });
});

describe('answers', () => {
  it('are numbers as IEEE 488.2 writes them, overload, and levels', () => {
    expect(readingOf('voltage', '+8.970000E+00\r')).toBe(8.97);
    expect(readingOf('resistance', '9.9E37')).toBe('OL');
    expect(readingOf('resistance', '+9.90000000E+37')).toBe('OL');
    expect(readingOf('voltage', '+9.9E+37')).toBeUndefined();
    expect(readingOf('continuity', '2.5E-01')).toBe('beep');
    expect(readingOf('continuity', '3.1E+01')).toBe('open');
    expect(readingOf('continuity', '9.9E37')).toBe('open');
    expect(readingOf('logic', 'p')).toBe('P');
    for (const nonsense of ['', ' ', 'E5', '1 V', '0x10', 'Infinity', 'NaN', '1e', '--1', '1,2'])
      expect(readingOf('voltage', nonsense), nonsense).toBeUndefined();
    expect(readingOf('logic', '+1.0E+00')).toBeUndefined();
  });
  it('of who it is have four fields', () => {
    expect(nameOf('House,Meter,123,1.0\n')).toBe('House Meter');
    for (const nonsense of ['', 'OK', 'a,b,c', 'a,b,c,d,e', ',,,', `${'x'.repeat(99)},b,c,d`])
      expect(nameOf(nonsense), nonsense).toBeUndefined();
  });
  it('that do not come in time are slow, not lost', async () => {
    await expect(within(new Promise(() => undefined), 5)).rejects.toBeInstanceOf(LinkSlow);
    await expect(within(Promise.reject(new LinkLost('gone')), 50)).rejects.toThrow('gone');
    await expect(within(Promise.resolve(3), 5)).resolves.toBe(3);
  });
});
