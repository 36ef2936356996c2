import { useState } from 'react';
import { laserAmpere, LASER_WORN_SHARE } from '@hanzai/core/adjust';
import { formatQuantity } from '@hanzai/core/quantity';
import { Caution } from '../../case/Caution';
import { NumberFields } from '../../form/NumberFields';
import { numbersOf, type Typed } from '../../form/numbers';
import { Fold } from '../../ui/Fold';
import { Notice } from '../../ui/Notice';

const FIELDS = [
  ['volt', 'Across the sense resistor, V'],
  ['ohm', 'Its ohms'],
  ['label', 'On the label, mA'],
] as const;
type Name = (typeof FIELDS)[number][0];

/** What a laser draws, by its sense resistor, against the label of the pickup. */
export function LaserSupply() {
  const [typed, setTyped] = useState<Typed<Name>>({});
  const { volt, ohm, label } = numbersOf(typed);
  const draws = volt && ohm ? laserAmpere(volt, ohm) : undefined;
  const over = draws !== undefined && label ? draws / (label / 1e3) - 1 : undefined;
  return (
    <Fold>
      <summary>Laser supply, by its sense resistor only</summary>
      <Caution of="laser-supply" />
      <NumberFields id="laser" fields={FIELDS} typed={typed} onType={setTyped} />
      {draws !== undefined && (
        <Notice look={over === undefined || over > LASER_WORN_SHARE ? 'attention' : 'plain'}>
          It draws <b className="mono">{formatQuantity(draws, 'A', 3)}</b>.{' '}
          {over === undefined
            ? 'Against its label it is not judged: type the label.'
            : over > LASER_WORN_SHARE
              ? `${(100 * over).toFixed(0)} % above its label: worn. More current ends it; a new pickup, not the trimmer.`
              : `${Math.abs(100 * over).toFixed(0)} % ${over < 0 ? 'below' : 'above'} its label (worn from ${100 * LASER_WORN_SHARE} % above; common practice).`}
        </Notice>
      )}
    </Fold>
  );
}
