import {
  startAuthentication,
  startRegistration,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/browser';
import { z } from 'zod';
import { ask, withBody } from '../store/answers';

// Signing in with what a device keeps: a key that never leaves it, opened by finger, face or number.

/** A passkey as it is listed. */
export const Passkey = z.object({
  id: z.string(),
  name: z.string().nullish(),
  createdAt: z.string().nullish(),
});
export type Passkey = z.infer<typeof Passkey>;

const DOORS = '/api/auth/passkey';
/** What the device is to be asked: it is the device that reads it. */
const Options = z.looseObject({ challenge: z.string() });
const Done = z.looseObject({});

/** Whether a browser can sign in by device at this address; if not, why. */
export type Possible = { readonly are: true } | { readonly are: false; readonly why: string };

/**
 * Whether there are passkeys here. at: the address that the workshop has for them; here and
 * hasDevices: what the browser says of itself.
 */
export function passkeysHere(
  at: string | undefined,
  here: string = window.location.origin,
  hasDevices: boolean = window.PublicKeyCredential !== undefined,
): Possible {
  if (at === undefined)
    return {
      are: false,
      why: 'The workshop has no address by name yet: whoever runs the machine sets HANZAI_PUBLIC_URL.',
    };
  if (here !== at) return { are: false, why: `They open at ${at}, and you are at ${here}.` };
  if (!hasDevices) return { are: false, why: 'This browser has none.' };
  return { are: true };
}

/** What came of asking the device, in words: whoever says no there is not told of an error. */
function deviceSaid(error: unknown): Error {
  const name = (error as Error).name;
  if (name === 'NotAllowedError' || name === 'AbortError')
    return new Error('The device said nothing: it was told no, or nobody answered it in time.');
  if (name === 'InvalidStateError') return new Error('This device has one already.');
  return new Error(`The device does not do it: ${(error as Error).message}`);
}

export const listPasskeys = (): Promise<Passkey[]> =>
  ask(`${DOORS}/list-user-passkeys`, z.array(Passkey));

/** Makes one on this device. Throws an AnswerError, or what the device says. */
export async function makePasskey(name: string): Promise<void> {
  const optionsJSON = await ask(`${DOORS}/generate-register-options`, Options);
  const response = await startRegistration({
    optionsJSON: optionsJSON as unknown as PublicKeyCredentialCreationOptionsJSON,
  }).catch((error: unknown) => {
    throw deviceSaid(error);
  });
  await ask(`${DOORS}/verify-registration`, Done, withBody('POST', { response, name }));
}

/** Signs in by this device. Throws an AnswerError, or what the device says. */
export async function signInWithPasskey(): Promise<void> {
  const optionsJSON = await ask(`${DOORS}/generate-authenticate-options`, Options);
  const response = await startAuthentication({
    optionsJSON: optionsJSON as unknown as PublicKeyCredentialRequestOptionsJSON,
  }).catch((error: unknown) => {
    throw deviceSaid(error);
  });
  await ask(`${DOORS}/verify-authentication`, Done, withBody('POST', { response }));
}

export async function endPasskey(id: string): Promise<void> {
  await ask(`${DOORS}/delete-passkey`, Done, withBody('POST', { id }));
}
