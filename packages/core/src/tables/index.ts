export { isValues, ownOf, withOwn } from './own.ts';
export { messageOf } from './message-of.ts';
