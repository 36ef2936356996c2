import { createPrivateKey, X509Certificate } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { Remedy } from './say.mjs';

const DAY_MILLISECONDS = 86_400_000;
/** Days before its end from which on a certificate is spoken of. */
const SPOKEN_OF = 21;

/**
 * Whether the application has a certificate of its own: HANZAI_CERTIFICATE and HANZAI_KEY, two files
 * in PEM. say: takes a line for whoever watches. Throws a Remedy where they do not do.
 */
export function certificateToUse(say = () => {}, env = process.env, now = Date.now()) {
  const [certificate, key] = [env.HANZAI_CERTIFICATE ?? '', env.HANZAI_KEY ?? ''];
  if (certificate === '' && key === '') return false;
  if (certificate === '' || key === '')
    throw new Remedy('HANZAI_CERTIFICATE and HANZAI_KEY go together: name both files, or neither.');
  const read = readPem('certificate', certificate, (pem) => new X509Certificate(pem));
  const own = readPem('key', key, (pem) => createPrivateKey(pem));
  if (!read.checkPrivateKey(own))
    throw new Remedy(`The key in ${key} is not that of the certificate in ${certificate}.`);
  const left = (Date.parse(read.validTo) - now) / DAY_MILLISECONDS;
  if (left <= 0)
    throw new Remedy(`The certificate in ${certificate} ended on ${read.validTo}: renew it.`);
  if (Date.parse(read.validFrom) > now)
    throw new Remedy(`The certificate in ${certificate} begins on ${read.validFrom} only.`);
  if (left < SPOKEN_OF) say(`the certificate ends in ${Math.ceil(left)} days: renew it`);
  return true;
}

function readPem(what, file, read) {
  try {
    return read(readFileSync(file));
  } catch (error) {
    throw new Remedy(
      `The ${what} in ${file} cannot be read (${error.code ?? error.message}): a file in PEM is expected.`,
    );
  }
}
