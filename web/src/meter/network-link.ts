import { z } from 'zod';
import { askAsPage } from '../store/answers';
import { LinkLost, LinkSlow, within, type MeterLink } from './link';

const Said = z.object({ answer: z.string().nullable() });
const Refused = z.object({ detail: z.string() });

/** A line through the server to an instrument on the network. */
export function networkLink(host: string, port: number): MeterLink {
  const say = async (message: string, isQuery: boolean): Promise<string> => {
    let response: Response;
    try {
      response = await within(
        askAsPage('/api/instruments/say', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ host, port, message, isQuery }),
        }),
        12_000,
      );
    } catch (error) {
      if (error instanceof LinkSlow) throw error;
      throw new LinkLost('the server is not reached');
    }
    const body: unknown = await response.json().catch(() => undefined);
    const said = Said.safeParse(body);
    if (response.ok && said.success) return said.data.answer ?? '';
    const why = Refused.safeParse(body);
    const words = why.success ? why.data.detail : `the server answered ${response.status}`;
    throw response.status === 504 ? new LinkSlow(words) : new LinkLost(words);
  };
  return {
    tell: async (message) => void (await say(message, false)),
    ask: (message) => say(message, true),
    close: () => undefined,
  };
}
