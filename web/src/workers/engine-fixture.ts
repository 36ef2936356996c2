import type { Course } from './engine';
import type { EngineReading } from './engine-messages';

// What tests of the engine share.

/** Volts to ground at a net with the power on. */
export const voltsAt = (id: string, at: string, value: number): EngineReading => ({
  id,
  setup: 'on',
  kind: 'voltage',
  at,
  to: '',
  value,
  absent: [],
});

/** A course that nobody watches and nothing stops, unless said otherwise. */
export const quietCourse = (more: Partial<Course> = {}): Course => ({
  send: () => undefined,
  pause: async () => undefined,
  stale: () => false,
  ...more,
});
