import { describe, expect, it } from 'vitest';
import { doorOf, metrics, took } from './metrics';

// What is counted must stay bounded and say nothing of anybody, whatever is asked for.

describe('a door', () => {
  it.each([
    ['/', 'page'],
    ['/case/1013/trace', 'page'],
    ['/api/cases', '/api/cases'],
    ['/api/cases/0190b5a0-1111-7000-8000-000000000001/entries', '/api/cases/ID/entries'],
    ['/api/cases/by-number/1013', '/api/cases/by-number/ID'],
    ['/api/boards/0190b5a0-1111-7000-8000-000000000001/file.cir', '/api/boards/ID/file.cir'],
    ['/api/<script>', 'other'],
    ['/api/owner%20Ada', 'other'],
    [`/api/${'x'.repeat(4000)}`, 'other'],
  ])('%s is %s', (path, door) => {
    expect(doorOf(path)).toBe(door);
  });
});

describe('what is counted', () => {
  it('stays bounded, whoever tries names', async () => {
    for (let i = 0; i < 2000; i += 1) {
      const name = [...String(i)].map((digit) => 'abcdefghij'[Number(digit)]).join('');
      took('GET', `/api/${name}`, 404, 0.001);
    }
    const text = await metrics.metrics();
    const doors = new Set([...text.matchAll(/door="([^"]+)"/g)].map(([, door]) => door));
    expect(doors.size).toBeLessThan(90);
    expect(doors).toContain('other');
  });
  it('has how long answers took, by door and status', async () => {
    took('POST', '/api/cases', 201, 0.03);
    const text = await metrics.metrics();
    expect(text).toContain(
      'hanzai_request_seconds_bucket{le="0.05",method="POST",door="/api/cases",status="201"} 1',
    );
    expect(text).toContain('hanzai_process_resident_memory_bytes');
  });
});
