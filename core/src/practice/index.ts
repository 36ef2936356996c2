export { normal, readOff, seeded, variedBoard, type Random } from './varied-board';
