export { BenchBoard } from './bench-board';
export { hiddenFault } from './hidden-fault';
export { checkBench, simulatedBench, type BenchTime, type BenchWish } from './scpi-bench';
export { OVERLOAD } from './meter';
export { SIMULATED_NAME } from './name';
