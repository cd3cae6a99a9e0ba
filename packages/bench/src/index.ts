export * from './board/board';
export * from './board/card';
export * from './board/readOut';
export * from './clock/bench';
export * from './dry/dryHoming';
export * from './link/benchLink';
export * from './link/link';
export * from './plant/plant';
