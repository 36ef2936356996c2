// The outside check of the messages: IEEE 488.2 (chapters 7, 10, 11) and SCPI-1999 (volume 1,
// chapters 5 to 9; volume 2, chapters 20 and 21), by their rules and numbers.
import { describe, expect, it } from 'vitest';
import {
  readMessage,
  SCPI_ERRORS,
  ScpiError,
  ScpiInstrument,
  type ScpiDevice,
  type ScpiUnit,
} from '../src/scpi';

const units = (text: string): ScpiUnit[] => [...readMessage(text)];
const data = (text: string) => units(`X ${text}`)[0]!.data;
const refused = (text: string): string | undefined => {
  try {
    units(text);
    return undefined;
  } catch (error) {
    if (error instanceof ScpiError) return error.number;
    throw error;
  }
};

/** An instrument with a level to set, which tells what it did. */
function device(): { readonly instrument: ScpiInstrument; readonly done: string[] } {
  const done: string[] = [];
  let level = 0;
  let release: (() => void) | undefined;
  let work: Promise<void> = Promise.resolve();
  const limits = { unit: 'V', least: -10, most: 10, usual: 1 } as const;
  const own: ScpiDevice = {
    identity: ['house', 'test', '0', '1'],
    reset: () => void (level = 0),
    selfTest: () => 0,
    settled: () => work,
    trigger: () => {
      throw new ScpiError('-211');
    },
    commands: () => [
      {
        header: '[SOURce]:VOLTage[:LEVel][:IMMediate][:AMPLitude]',
        takes: 1,
        asks: 1,
        set: (args) => {
          level = args.number(limits);
          done.push(`level ${level}`);
        },
        query: (args) => String(args.isDone ? level : args.number(limits)),
      },
      { header: '[SOURce]:VOLTage:RANGe', query: () => 'range' },
      {
        header: 'OUTPut[:STATe]',
        takes: 1,
        set: (args) => void done.push(`out ${args.boolean()}`),
      },
      {
        header: 'DISPlay:TEXT',
        takes: 1,
        set: (args) => void done.push(`text ${args.string()}`),
      },
      {
        header: 'WORK',
        set: () => {
          work = new Promise((resolve) => (release = resolve));
        },
      },
      { header: 'WORK:END', set: () => release?.() },
      { header: 'MODE', takes: 1, set: (args) => void done.push(args.keyword('FASTest', 'SLOW')) },
    ],
  };
  return { instrument: new ScpiInstrument(own), done };
}

describe('a program message', () => {
  it('is split into its commands, headers, and arguments', () => {
    expect(units(':MEAS:VOLT:DC? 10,0.1;*IDN?')).toMatchObject([
      {
        path: ['MEAS', 'VOLT', 'DC'],
        rooted: true,
        isQuery: true,
        data: [{ value: 10 }, { value: 0.1 }],
      },
      { path: ['*IDN'], isQuery: true, data: [] },
    ]);
    expect(units('')).toEqual([]);
    expect(units(' \t ')).toEqual([]);
    expect(units('*CLS; ')).toHaveLength(1);
  });
  it.each([
    ['1', 1],
    ['-.5', -0.5],
    ['+2.50E+01', 25],
    ['1 E 3', 1000],
    ['1e-3', 1e-3],
    ['007', 7],
    ['#HFF', 255],
    ['#q17', 15],
    ['#B101', 5],
  ])('has numbers as IEEE 488.2, 7.7.2 and 7.7.4 write them: %s', (text, value) => {
    expect(data(text)).toEqual([{ type: 'number', value, suffix: '' }]);
  });
  it('has strings with either mark, which is doubled to stand for itself (7.7.5)', () => {
    expect(data(`"it's; ""so"""`)).toEqual([{ type: 'string', text: `it's; "so"` }]);
    expect(data(`'a "b" ''c'''`)).toEqual([{ type: 'string', text: `a "b" 'c'` }]);
  });
  it('has blocks of counted bytes, expressions, words and suffixes (7.7.3, 7.7.6, 7.7.7)', () => {
    expect(data('#15a;b,c,3')).toEqual([
      { type: 'block', text: 'a;b,c' },
      { type: 'number', value: 3, suffix: '' },
    ]);
    expect(data('#0a;b')).toEqual([{ type: 'block', text: 'a;b' }]);
    expect(data('(@1,2)')).toEqual([{ type: 'expression', text: '@1,2' }]);
    expect(data('min,10 mv')).toEqual([
      { type: 'word', text: 'MIN' },
      { type: 'number', value: 10, suffix: 'MV' },
    ]);
  });
  it.each([
    ['VOLT{', '-111'],
    ['\u00e9', '-101'],
    ['VOLT 1 2', '-103'],
    ['VOLT 1,', '-109'],
    ['VOLT,1', '-111'],
    ['VOLT "a', '-151'],
    ['VOLT #3ab', '-161'],
    ['VOLT (1', '-171'],
    ['VOLT 1.2.3', '-121'],
    ['VOLT +', '-121'],
    ['VOLT 1e99999', '-123'],
    ['ABCDEFGHIJKLM 1', '-112'],
    ['VOLT ABCDEFGHIJKLM', '-144'],
    ['VOLT:', '-102'],
    [';;', '-102'],
    ['VOLT #HG', '-121'],
  ])('names what is wrong with "%s": %s', (text, error) => {
    expect(refused(text)).toBe(error);
  });
  it('carries out what came before a mistake, and nothing after it', async () => {
    const { instrument, done } = device();
    expect(await instrument.execute('VOLT 1;VOLT 1 2;VOLT 3')).toBeUndefined();
    expect(done).toEqual(['level 1']);
    expect(await instrument.execute('SYST:ERR?')).toMatch(/^-103,"Invalid separator/);
  });
});

describe('headers', () => {
  const asked = async (text: string): Promise<string | undefined> => {
    const { instrument } = device();
    const answer = await instrument.execute(text);
    const error = await instrument.execute('SYST:ERR?');
    return error === '0,"No error"' ? (answer ?? 'done') : error!.split(',')[0];
  };
  it.each([
    'VOLT 1',
    'volt 1',
    'Voltage 1',
    ':VOLT 1',
    'SOUR:VOLT 1',
    'SOURCE:VOLTAGE:LEVEL:IMMEDIATE:AMPLITUDE 1',
    'volt:ampl 1',
    'VOLT1 1',
    'SOUR1:VOLT:LEV 1',
  ])(
    'are long or short, in any case, without what is in brackets: %s (SCPI-1999, 6.2)',
    async (text) => {
      expect(await asked(text)).toBe('done');
    },
  );
  it.each([
    ['VOLTA 1', '-113'],
    ['VOL 1', '-113'],
    ['SOUR 1', '-113'],
    ['*IDX?', '-113'],
    ['*IDN', '-113'],
    ['VOLT2 1', '-114'],
    ['VOLT', '-109'],
    ['OUTP', '-109'],
    ['VOLT 1,2', '-108'],
    ['*CLS 1', '-108'],
    ['*IDN? 1', '-108'],
    ['VOLT 11', '-222'],
    ['VOLT 1 OHM', '-131'],
    ['VOLT 1 QV', '-131'],
    ['*ESE 1 V', '-138'],
    ['VOLT "1"', '-158'],
    ['VOLT (1)', '-178'],
    ['VOLT #11', '-161'],
    ['VOLT #111', '-168'],
    ['VOLT FULL', '-141'],
    ['OUTP MAYBE', '-141'],
    ['DISP:TEXT 1', '-128'],
    ['DISP:TEXT ON', '-148'],
    ['MODE QUICK', '-224'],
    ['MODE 1', '-128'],
    ['*ESE 256', '-222'],
    ['*TRG', '-211'],
  ])(
    'and arguments that are not right are refused by the number of the standard: %s is %s',
    async (text, error) => {
      expect(await asked(text)).toBe(error);
    },
  );
  it('go on from the last one after a semicolon, and common commands leave the place', async () => {
    expect(await asked('SOUR:VOLT 2;*ESE 0;VOLT?;RANG?')).toBe('-113');
    expect(await asked('SOUR:VOLT 2;*ESE 0;VOLT?')).toBe('2');
    expect(await asked('SOUR:VOLT:RANG?;*ESE 0;LEV?')).toBe('range;0');
    expect(await asked('SOUR:VOLT:RANG?;:VOLT?')).toBe('range;0');
    expect(await asked('SYST:ERR?;VERS?')).toBe('0,"No error";1999.0');
  });
  it('take multipliers as IEEE 488.2, table 7-1: M is milli, but with ohm and hertz mega', async () => {
    const { instrument, done } = device();
    await instrument.execute('VOLT 20 MV;VOLT 3000UV;VOLT 0.001KV;VOLT MIN;VOLT MAX;VOLT DEF');
    expect(done).toEqual([
      'level 0.02',
      'level 0.003',
      'level 1',
      'level -10',
      'level 10',
      'level 1',
    ]);
    expect(await instrument.execute('VOLT? MAX;VOLT?')).toBe('10;1');
  });
  it('take ON, OFF and what rounds to them, and keywords in both forms', async () => {
    const { instrument, done } = device();
    await instrument.execute('OUTP ON;OUTP off;OUTP 0.4;OUTP 0.6;OUTP -3;MODE FAST;MODE fastest');
    expect(done).toEqual([
      'out true',
      'out false',
      'out false',
      'out true',
      'out true',
      'FASTest',
      'FASTest',
    ]);
  });
});

describe('status', () => {
  it('begins with power on, and every class of error sets its bit (IEEE 488.2, 11.5.1)', async () => {
    const { instrument } = device();
    const ask = (text: string) => instrument.execute(text);
    expect(await ask('*ESR?')).toBe('128');
    await ask('NONSENSE');
    expect(await ask('*ESR?;*ESR?')).toBe('32;0');
    await ask('VOLT 99');
    expect(await ask('*ESR?')).toBe('16');
  });
  it('sums up in the status byte by its masks, and *CLS clears events but no mask', async () => {
    const { instrument } = device();
    const ask = (text: string) => instrument.execute(text);
    await ask('*CLS;*ESE 32;*SRE 255');
    expect(await ask('*SRE?')).toBe('191');
    expect(await ask('*STB?')).toBe('0');
    await ask('NONSENSE');
    // Error queue 4, event summary 32, master summary 64.
    expect(await ask('*STB?')).toBe('100');
    expect(await ask('*IDN?;*STB?')).toBe('house,test,0,1;116');
    await ask('*CLS');
    expect(await ask('*STB?;*ESE?;*ESR?;SYST:ERR?')).toBe('0;32;0;0,"No error"');
  });
  it('keeps errors in order, and says where it could keep no more (SCPI-1999, 21.8.1)', async () => {
    const { instrument } = device();
    const ask = (text: string) => instrument.execute(text);
    await ask('NONSENSE');
    await ask('VOLT 99');
    expect(await ask('SYST:ERR:COUN?')).toBe('2');
    expect(await ask('SYST:ERR?')).toBe('-113,"Undefined header;NONSENSE"');
    expect(await ask('SYST:ERR?')).toBe('-222,"Data out of range;-10 to 10"');
    for (let i = 0; i < 40; i += 1) await ask('NONSENSE');
    const all = (await ask('SYST:ERR:ALL?'))!;
    expect(all.match(/-113/g)).toHaveLength(19);
    expect(all).toMatch(/,-350,"Queue overflow"$/);
  });
  it('tells the end of what is under way: *OPC sets its bit, *OPC? waits', async () => {
    const { instrument } = device();
    await instrument.execute('*CLS;WORK;*OPC');
    expect(await instrument.execute('*ESR?')).toBe('0');
    await instrument.execute('WORK:END');
    expect(await instrument.execute('*OPC?;*ESR?')).toBe('1;1');
  });
  it('takes one message after the other, however they come, and lives through what is no message', async () => {
    const { instrument } = device();
    const answers = await Promise.all(
      ['VOLT 3;VOLT?', 'VOLT 4;VOLT?'].map((m) => instrument.execute(m)),
    );
    expect(answers).toEqual(['3', '4']);
    expect(await instrument.execute('X'.repeat(100_000))).toBeUndefined();
    expect(await instrument.execute('SYST:ERR?')).toMatch(/^-363/);
    // Every character alone, and some noise: an error at most, never an end.
    for (let code = 0; code < 300; code += 1)
      await instrument.execute(`V${String.fromCharCode(code)}1`);
    await instrument.execute('*CLS');
    expect(await instrument.execute('*IDN?')).toBe('house,test,0,1');
  });
  it('words every error as the standard does', () => {
    for (const [number, words] of Object.entries(SCPI_ERRORS))
      expect(new ScpiError(number as keyof typeof SCPI_ERRORS).message).toBe(
        `${number},"${words}"`,
      );
    expect(SCPI_ERRORS['-113']).toBe('Undefined header');
    expect(SCPI_ERRORS['-109']).toBe('Missing parameter');
    expect(SCPI_ERRORS['-224']).toBe('Illegal parameter value');
  });
});
