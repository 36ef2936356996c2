import { describe, expect, it } from 'vitest';
import { told } from './logger';

describe('what is told of an error', () => {
  it('has nothing of what was in a query, wherever it stands', () => {
    const cause = Object.assign(new Error('invalid input: "Mrs Penhallow"'), { code: '22P02' });
    const error = new Error(
      'Failed query: insert into x values ($1)\nparams: Mrs Penhallow\n  at a',
      {
        cause,
      },
    );
    expect(told(error)).toEqual({ name: 'Error', why: 'a query failed', code: '22P02' });
    expect(JSON.stringify(told(error))).not.toContain('Penhallow');
  });
  it('is the message of any other one, and something of what is none', () => {
    const away = Object.assign(new TypeError('no way there'), { code: 'ECONNREFUSED' });
    expect(told(away)).toEqual({ name: 'TypeError', why: 'no way there', code: 'ECONNREFUSED' });
    for (const thrown of [undefined, null, 'text', 7, {}])
      expect(told(thrown)).toEqual({ name: typeof thrown, why: '', code: '' });
  });
});
