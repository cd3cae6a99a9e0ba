export * from './board/board';
export * from './board/card';
export * from './board/readOut';
export * from './clock/bench';
export * from './link/benchLink';
export * from './link/link';
export * from './plant/dryHoming';
export * from './plant/plant';
