import { ARCHETYPES } from '@hanzai/data';

/** The kinds of unit to choose from. */
export function UnitTypeOptions() {
  return ARCHETYPES.map(({ name, title }) => (
    <option key={name} value={name}>
      {title}
    </option>
  ));
}
