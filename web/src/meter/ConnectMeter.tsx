import { useState } from 'react';
import type { CaseState } from '../case/use-case';
import { Button } from '../ui/Button';
import { OneOf } from '../ui/Choices';
import { Dialog } from '../ui/Dialog';
import { TextField } from '../ui/TextField';
import { keep, readKept } from '../store/kept';
import { openBench } from './bench-link';
import { MetersInUse } from './MetersInUse';
import { networkLink } from './network-link';
import { canSerial, openSerial } from './serial-link';
import type { MeterChoice } from './use-live';
import style from './Live.module.css';

type Way = 'bench' | 'network' | 'serial';
const WAYS: Readonly<Record<Way, string>> = {
  bench: 'Simulated bench',
  network: 'On the network',
  serial: 'On a serial port',
};
const BAUD_RATES = [9600, 19_200, 38_400, 57_600, 115_200];
const KEY = 'hanzai-meter-address';

const whole = (text: string, least: number, most: number): number | undefined => {
  const value = Number(text);
  return /^\d+$/.test(text.trim()) && value >= least && value <= most ? value : undefined;
};

/** Asks how the meter is reached. */
export function ConnectMeter({
  state,
  open,
  onClose,
  onConnect,
}: {
  /** Its board is what the simulated bench carries; without a sheet there is nothing to simulate. */
  readonly state: CaseState;
  readonly open: boolean;
  readonly onClose: () => void;
  readonly onConnect: (choice: MeterChoice) => void;
}) {
  const board = state.view.board?.content;
  const [way, setWay] = useState<Way>(board ? 'bench' : 'network');
  const [faults, setFaults] = useState('');
  const [seed, setSeed] = useState('1');
  const [slips, setSlips] = useState(false);
  const [address, setAddress] = useState(() => readKept(KEY) ?? '127.0.0.1:5025');
  const [baud, setBaud] = useState(String(BAUD_RATES[0]));
  const [wrong, setWrong] = useState<string>();

  function choose(): MeterChoice | string {
    if (way === 'bench') {
      if (!board) return 'a simulated bench needs a sheet';
      const number = whole(seed, 1, 2_147_483_646);
      if (number === undefined) return 'a whole number above zero';
      const names = faults.split(/[\s,]+/).filter(Boolean);
      return {
        title: WAYS.bench,
        open: () => openBench({ board, faults: names, seed: number, slips }),
      };
    }
    if (way === 'serial') return { title: WAYS.serial, open: () => openSerial(Number(baud)) };
    const [, host, port] = /^(.+):(\d+)$/.exec(address.trim()) ?? [];
    const number = whole(port ?? '', 1, 65_535);
    if (!host || number === undefined) return 'a host and a port, such as 127.0.0.1:5025';
    keep(KEY, address.trim());
    return { title: `${host}:${number}`, open: () => Promise.resolve(networkLink(host, number)) };
  }

  return (
    <Dialog title="Take readings from a meter" open={open} onClose={onClose}>
      <form
        className={style.connect}
        onSubmit={(event) => {
          event.preventDefault();
          const choice = choose();
          if (typeof choice === 'string') return setWrong(choice);
          setWrong(undefined);
          onConnect(choice);
          onClose();
        }}
      >
        <OneOf
          name="meter-way"
          legend="Where the meter is"
          choices={(Object.keys(WAYS) as Way[]).map((key) => ({ value: key, words: WAYS[key] }))}
          value={way}
          onChange={(next) => {
            setWay(next);
            setWrong(undefined);
          }}
        />
        {way === 'bench' && (
          <>
            <p>
              A board of this sheet that is computed: nothing that it shows is of the board on your
              bench. Its readings carry its name.
            </p>
            <TextField
              id="bench-faults"
              label="What is wrong with it"
              hint="such as F1:open; left empty, one fault is hidden on it"
              value={faults}
              onChange={(event) => setFaults(event.target.value)}
            />
            <TextField
              id="bench-seed"
              label="Drawn from"
              hint="the same number gives the same board again"
              inputMode="numeric"
              value={seed}
              error={wrong}
              onChange={(event) => setSeed(event.target.value)}
            />
            <label className={style.check}>
              <input
                type="checkbox"
                checked={slips}
                onChange={(event) => setSlips(event.target.checked)}
              />{' '}
              Let the hand slip now and then
            </label>
          </>
        )}
        {way === 'network' && (
          <TextField
            id="meter-address"
            label="Address"
            hint="host:port of a meter that speaks SCPI. Other than this machine, the workshop allows it by HANZAI_INSTRUMENTS"
            value={address}
            error={wrong}
            onChange={(event) => setAddress(event.target.value)}
          />
        )}
        {way === 'serial' &&
          (canSerial() ? (
            <label className={style.check}>
              Speed{' '}
              <select value={baud} onChange={(event) => setBaud(event.target.value)}>
                {BAUD_RATES.map((rate) => (
                  <option key={rate}>{rate}</option>
                ))}
              </select>{' '}
              baud; the browser asks which port.
            </label>
          ) : (
            <p>This browser lets no page speak to a serial port.</p>
          ))}
        <Button look="main" type="submit" disabled={way === 'serial' && !canSerial()}>
          Connect
        </Button>
      </form>
      <MetersInUse state={state} />
    </Dialog>
  );
}
