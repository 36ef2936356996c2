// npm run --silent sbom: a bill of materials of the whole lock file on standard output, CycloneDX 1.5
// (https://cyclonedx.org/docs/1.5/json/). npm's own leaves out what only a peer asks for, which some
// of what ships is; the usual package for it compiles a library at every install.
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

/** The bill of a lock file. at: when it is made, ISO 8601. */
export function billOf(lock, at) {
  const components = Object.entries(lock.packages).flatMap(([path, one]) => {
    if (!path.includes('node_modules/') || one.link || !one.version) return [];
    const whole = path.split('node_modules/').at(-1);
    const [group, name] = whole.startsWith('@') ? whole.split('/') : [undefined, whole];
    const purl = `pkg:npm/${group ? `${encodeURIComponent(group)}/` : ''}${name}@${one.version}`;
    const [, algorithm, hash] = /^(sha512|sha1)-(.+)$/.exec(one.integrity ?? '') ?? [];
    return [
      {
        type: 'library',
        'bom-ref': `${purl}#${path}`,
        ...(group ? { group } : {}),
        name,
        version: one.version,
        purl,
        scope: one.dev ? 'excluded' : one.optional ? 'optional' : 'required',
        ...(hash
          ? {
              hashes: [
                {
                  alg: algorithm === 'sha512' ? 'SHA-512' : 'SHA-1',
                  content: Buffer.from(hash, 'base64').toString('hex'),
                },
              ],
            }
          : {}),
        ...(one.license ? { licenses: [{ expression: one.license }] } : {}),
      },
    ];
  });
  return {
    bomFormat: 'CycloneDX',
    specVersion: '1.5',
    version: 1,
    metadata: {
      timestamp: at,
      component: { type: 'application', name: lock.name, version: lock.version },
    },
    components,
  };
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const lock = JSON.parse(readFileSync(new URL('../package-lock.json', import.meta.url), 'utf8'));
  process.stdout.write(`${JSON.stringify(billOf(lock, new Date().toISOString()), null, 2)}\n`);
}
