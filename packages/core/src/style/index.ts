export * from './view-style.ts';
