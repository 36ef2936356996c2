import { Notice } from '../ui/Notice';

const WORDS = {
  power: 'Powered: one hand, insulated tips, no rings. Mains and laser parts may be near.',
  discharge: 'Off means unplugged, stores discharged and read at zero volts.',
  iron: 'Hot iron and flux fumes: air out. Leaked electrolyte: gloves, and no cold pulling where the pad is to live.',
} as const;

/** The caution that belongs to a step. It stands at the step, not in a manual. */
export function Caution({ of }: { of: keyof typeof WORDS }) {
  return (
    <Notice look="harm" title="Mind:">
      {WORDS[of]} Follow local codes; mains and laser work only if you are qualified.
    </Notice>
  );
}
