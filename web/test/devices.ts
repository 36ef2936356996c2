import { createHash, generateKeyPairSync, randomBytes, sign } from 'node:crypto';

// A device with a passkey, as a program: what it signs is made here and by none of the packages that
// look at it. Source: Web Authentication Level 3, sections 6.1 (authenticator data), 6.5 (attested
// credential data) and 8.7 (none attestation); RFC 9052 and 9053 (COSE keys); RFC 8949 (CBOR).

/** How a device answers, where not as it should. */
export interface Answers {
  /** The page that asked; else that of the workshop. */
  readonly origin?: string;
  /** Whether it asked who holds it. */
  readonly verified?: boolean;
  readonly challenge?: string;
  /** Signed by another key than it has. */
  readonly forged?: boolean;
}

const hash = (bytes: Buffer | string): Buffer => createHash('sha256').update(bytes).digest();
const text = (words: string): Buffer => Buffer.concat([head(3, words.length), Buffer.from(words)]);
const bytes = (of: Buffer): Buffer => Buffer.concat([head(2, of.length), of]);
/** A head of CBOR: type and count below 65,536. */
function head(type: number, count: number): Buffer {
  if (count < 24) return Buffer.from([(type << 5) | count]);
  return count < 256
    ? Buffer.from([(type << 5) | 24, count])
    : Buffer.from([(type << 5) | 25, count >> 8, count & 255]);
}

export class Device {
  readonly id = randomBytes(16);
  private readonly pair = generateKeyPairSync('ec', { namedCurve: 'P-256' });
  private readonly other = generateKeyPairSync('ec', { namedCurve: 'P-256' });
  counter = 0;

  constructor(readonly origin: string) {}

  /** What it answers to being asked for a new key. */
  registers(challenge: string, how: Answers = {}) {
    const { x, y } = this.pair.publicKey.export({ format: 'jwk' });
    // Key type 2 (elliptic), algorithm -7 (ES256), curve 1 (P-256), x, y.
    const key = Buffer.concat([
      Buffer.from([0xa5, 0x01, 0x02, 0x03, 0x26, 0x20, 0x01, 0x21]),
      bytes(Buffer.from(x!, 'base64url')),
      Buffer.from([0x22]),
      bytes(Buffer.from(y!, 'base64url')),
    ]);
    const length = Buffer.alloc(2);
    length.writeUInt16BE(this.id.length);
    const credential = Buffer.concat([Buffer.alloc(16), length, this.id, key]);
    const attestation = Buffer.concat([
      head(5, 3),
      text('fmt'),
      text('none'),
      text('attStmt'),
      head(5, 0),
      text('authData'),
      bytes(Buffer.concat([this.data(how, true), credential])),
    ]);
    return this.answer({
      clientDataJSON: this.client('webauthn.create', challenge, how).toString('base64url'),
      attestationObject: attestation.toString('base64url'),
      transports: ['internal'],
    });
  }

  /** What it answers to being asked to sign in. */
  signsIn(challenge: string, how: Answers = {}) {
    const client = this.client('webauthn.get', challenge, how);
    const data = this.data(how, false);
    const { privateKey } = how.forged ? this.other : this.pair;
    return this.answer({
      clientDataJSON: client.toString('base64url'),
      authenticatorData: data.toString('base64url'),
      signature: sign('sha256', Buffer.concat([data, hash(client)]), privateKey).toString(
        'base64url',
      ),
    });
  }

  private answer<T>(response: T) {
    const id = this.id.toString('base64url');
    return { id, rawId: id, type: 'public-key', response, clientExtensionResults: {} };
  }
  private client(type: string, challenge: string, how: Answers): Buffer {
    const origin = how.origin ?? this.origin;
    return Buffer.from(
      JSON.stringify({ type, challenge: how.challenge ?? challenge, origin, crossOrigin: false }),
    );
  }
  /** Flags: user present 1, user verified 4, attested data included 64. */
  private data(how: Answers, attested: boolean): Buffer {
    this.counter += 1;
    const counter = Buffer.alloc(4);
    counter.writeUInt32BE(this.counter);
    const flags = 1 | (how.verified === false ? 0 : 4) | (attested ? 64 : 0);
    return Buffer.concat([hash(new URL(this.origin).hostname), Buffer.from([flags]), counter]);
  }
}
