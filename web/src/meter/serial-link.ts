import { LinkLost, within, type MeterLink } from './link';

/** The longest answer that is waited for, characters. */
const LONGEST_ANSWER = 10_000;

/** Whether this browser lets a page speak to a serial port. */
export const canSerial = (): boolean => 'serial' in navigator;

/** Asks which port, and opens it. Throws where nobody chose one, or it cannot be opened. */
export async function openSerial(baudRate: number): Promise<MeterLink> {
  const port = await navigator.serial.requestPort();
  await port.open({ baudRate });
  return serialLink(port);
}

/** A line over a port that is open. */
export function serialLink(port: Pick<SerialPort, 'readable' | 'writable' | 'close'>): MeterLink {
  const reader = port.readable!.getReader();
  const writer = port.writable!.getWriter();
  const decode = new TextDecoder('latin1');
  const encode = new TextEncoder();
  let held = '';
  let isOpen = true;
  const lines: string[] = [];
  let waiting: { resolve: (line: string) => void; reject: (error: Error) => void } | undefined;
  const lost = (why: string): void => {
    isOpen = false;
    waiting?.reject(new LinkLost(why));
    waiting = undefined;
  };
  void (async () => {
    try {
      for (;;) {
        const { value, done } = await reader.read();
        if (done) break;
        held += decode.decode(value);
        if (held.length > LONGEST_ANSWER) held = '';
        const parts = held.split(/\r?\n|\r/);
        held = parts.pop()!;
        for (const line of parts.filter((one) => one.trim() !== '')) {
          if (waiting) waiting.resolve(line);
          else lines.push(line);
          waiting = undefined;
        }
      }
      lost('the port was closed');
    } catch {
      lost('the instrument was unplugged');
    }
  })();
  const tell = async (message: string): Promise<void> => {
    if (!isOpen) throw new LinkLost('the instrument was unplugged');
    try {
      await within(writer.write(encode.encode(`${message}\n`)));
    } catch (error) {
      if (isOpen) throw error;
      throw new LinkLost('the instrument was unplugged');
    }
  };
  return {
    tell,
    ask: async (message) => {
      // What came late is no answer to this.
      lines.length = 0;
      const answer = new Promise<string>((resolve, reject) => (waiting = { resolve, reject }));
      answer.catch(() => undefined);
      await tell(message);
      return within(answer);
    },
    close: () => {
      isOpen = false;
      const done = (): Promise<void> => port.close().catch(() => undefined);
      reader
        .cancel()
        .catch(() => undefined)
        .finally(() => {
          reader.releaseLock();
          writer
            .close()
            .catch(() => undefined)
            .finally(() => void done());
        });
    },
  };
}
