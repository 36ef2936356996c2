import { MeterProfile, ReadingKind } from '@hanzai/core/instrument';
import { z } from 'zod';

/** What the workshop owns to measure with. */
export const Instrument = z.object({
  id: z.uuid(),
  name: z.string().trim().min(1, 'what it is called').max(80),
  kinds: z.array(ReadingKind).min(1, 'what it is used for').max(8),
  profile: MeterProfile,
});
export type Instrument = z.infer<typeof Instrument>;
