import type { OpenUpStep } from '@hanzai/core/bench';

/** A step on the way in, in words. */
export function stepWords({ what, of, name, count, lengthMm }: OpenUpStep): string {
  const length = lengthMm === undefined ? '' : ` of ${lengthMm} mm`;
  switch (what) {
    case 'fastener':
      return `${count} ${name || 'screws'}${length} out of ${of}`;
    case 'plug':
      return `plug ${name} off ${of}`;
    case 'flex':
      return `flex ${name} out of ${of}`;
    case 'tab':
      return `tab ${name} of ${of} released`;
    case 'glue':
      return `${name || 'glue'} at ${of} loosened`;
    case 'seal':
      return `seal ${name} at ${of} broken`;
    case 'lift':
      return `${of} lifted off`;
    case 'empty-hole':
      return `hole of ${of} that was empty${name ? `: ${name}` : ''}`;
  }
}
