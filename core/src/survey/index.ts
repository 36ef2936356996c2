export { surveyCapacitors, type CapacitorVerdict } from './capacitors';
