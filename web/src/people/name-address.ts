/**
 * The stand-in of a mail address that the sign-in goes by: the name in one spelling. The domain is
 * one that cannot exist (RFC 2606), so nothing can ever be sent there.
 */
export function nameAddress(name: string): string {
  const plain = name.normalize('NFC').trim().toLowerCase().replace(/\s+/g, ' ');
  const bytes = new TextEncoder().encode(plain);
  return `${[...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')}@people.invalid`;
}
