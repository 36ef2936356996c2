import { RateTable } from '@hanzai/core/fault';
import rates from './library/rates.json' with { type: 'json' };

/** The library's failure rates by class of part. Source: see the file's `source`. */
export const RATES: RateTable = RateTable.parse(rates);

export { chipModel, FAMILIES, LIBRARY, OTHER_CHIPS, SERIES_74 } from './library/devices';
