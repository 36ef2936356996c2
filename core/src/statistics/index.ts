export { median } from './median';
export { betaBelow, betaQuantile } from './beta';
export { gammaBelow, gammaQuantile, logGamma } from './gamma';
export { countAtMost, countInterval, shareAtMost, shareInterval, type Interval } from './counts';
