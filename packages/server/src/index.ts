export * from './start.js';
