import { RateTable } from '@hanzai/core/fault';
import { DiskGeometry, UnitModel } from '@hanzai/core/block';
import archetypes from './library/archetypes.json' with { type: 'json' };
import media from './library/media.json' with { type: 'json' };
import rates from './library/rates.json' with { type: 'json' };

/** The library's failure rates by class of part. Source: see the file's `source`. */
export const RATES: RateTable = RateTable.parse(rates);

export { SECTIONS, type Section } from './library/sections';
export { chipModel, FAMILIES, LIBRARY, OTHER_CHIPS, SERIES_74 } from './library/devices';

/** Unit models for when there is no schematic, with the known failure patterns as their priors. */
export const ARCHETYPES: readonly UnitModel[] = archetypes.map((archetype) =>
  UnitModel.parse(archetype),
);

/** Layouts of the common flexible disks. Source: the standards named in each row. */
export const DISK_GEOMETRIES: readonly DiskGeometry[] = media.map((row) => DiskGeometry.parse(row));
