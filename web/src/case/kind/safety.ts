import { nameKey } from '@hanzai/core/board';
import type { KindsOf } from './definition';

/** What Make safe asks for, and power that is put on a board as it is. */
export const SAFETY_KINDS: KindsOf<'acknowledge' | 'residual' | 'powerAnyway'> = {
  acknowledge: {
    words: 'hazard acknowledged',
    said: ({ hazard }) => hazard,
    takeBack: 'free',
    objection: ({ hazard: key, notHere }, { hazards }) => {
      const hazard = hazards().find((one) => one.key === key);
      if (!hazard) return 'this hazard is not one of the case any more';
      return notHere && !hazard.ifFitted
        ? 'this one is known to be there: it can only be acknowledged'
        : undefined;
    },
    add: (draft, entry) =>
      draft.acknowledged.push({
        hazard: entry.body.hazard,
        who: entry.body.who,
        notHere: entry.body.notHere === true,
        entry,
      }),
    // Counted by name: who acknowledged how many.
    report: 'table',
  },
  residual: {
    words: 'volts left on a charge',
    said: ({ hazard, volt }) => `${hazard} ${volt} V`,
    takeBack: 'free',
    objection: ({ hazard }, { hazards }) =>
      hazards().some(({ key, charge }) => key === hazard && charge)
        ? undefined
        : 'this charge is not one of the case any more',
    add: (draft, entry) =>
      draft.residuals.push({
        hazard: entry.body.hazard,
        volt: entry.body.volt,
        current: draft.isSincePower(entry),
        entry,
      }),
    report: 'none',
  },
  powerAnyway: {
    words: 'power on purpose',
    said: ({ reason }) => reason,
    takeBack: 'free',
    objection: ({ refs }, { journal }) => {
      const left = journal.missing.filter(
        (ref) => !refs.some((named) => nameKey(named) === nameKey(ref)),
      );
      return left.length > 0 ? `${left.join(', ')} is off the board too: name it` : undefined;
    },
    add: (draft, entry) => draft.powered.push(entry),
    report: {
      list: 'powered',
      line: ({ refs, reason }) =>
        `${refs.length > 0 ? `without ${refs.join(', ')}: ` : ''}${reason}`,
    },
  },
};
