import { dot, distance, subtract } from '../math/vec3.ts';
import {
  at,
  fact,
  LINES,
  off,
  ofLines,
  one,
  rule,
  sideOf,
  smaller,
  toWall,
  type PairRule,
} from './pair-rule.ts';
import { angleOfLines, footOnLine, footOnPlane, meets, parallel, square, toCircle } from './relations.ts';

/** Points and lines to everything. */
export const STRAIGHT_RULES: readonly PairRule[] = [
  rule(['point', 'point'], one('Distance'), (a, b) => ({
    case: 'any',
    lead: fact('Distance', 'length', distance(a.at, b.at)),
    dimension: [a.at, b.at],
  })),
  rule(['point', 'line'], one('Normal distance', 'Foot'), (a, b) => {
    const foot = footOnLine(a.at, b);
    const beyond = b.ends && dot(subtract(foot, b.ends[0]), subtract(foot, b.ends[1])) > 0;
    return {
      case: 'any',
      lead: fact('Normal distance', 'length', distance(a.at, foot)),
      rows: [at('Foot', foot, beyond ? 'beyond the edge' : undefined)],
      dimension: [a.at, foot],
    };
  }),
  rule(['point', 'circle'], one('To the centre', 'To the curve', 'Height over its plane'), (a, b) => ({
    case: 'any',
    lead: fact('To the centre', 'length', distance(a.at, b.origin)),
    rows: [
      ...(b.radius === null
        ? []
        : [fact('To the curve', 'length', toCircle(a.at, b.origin, b.axis, b.radius))]),
      fact('Height over its plane', 'length', dot(subtract(a.at, b.origin), b.axis)),
    ],
    dimension: [a.at, b.origin],
  })),
  rule(['point', 'plane'], one('Normal distance', 'It lies', 'Foot'), (a, b, within) => {
    const foot = footOnPlane(a.at, b);
    return {
      case: 'any',
      lead: fact('Normal distance', 'length', distance(a.at, foot)),
      rows: [...sideOf(a.at, b, within), at('Foot', foot)],
      dimension: [a.at, foot],
    };
  }),
  rule(['point', 'turned'], one('To the axis', 'To the wall'), (a, b) => {
    const foot = footOnLine(a.at, b);
    const away = distance(a.at, foot);
    return {
      case: 'any',
      lead: fact('To the axis', 'length', away),
      rows: b.radius === null ? [] : [fact('To the wall', 'length', Math.abs(away - b.radius))],
      dimension: [a.at, foot],
    };
  }),
  rule(['point', 'sphere'], one('To the centre', 'To the surface'), (a, b) => ({
    case: 'any',
    lead: fact('To the centre', 'length', distance(a.at, b.origin)),
    rows: [fact('To the surface', 'length', Math.abs(distance(a.at, b.origin) - b.radius))],
    dimension: [a.at, b.origin],
  })),
  rule(['line', 'line'], LINES('Distance', 'Shortest distance of the lines'), (a, b, within) => {
    const found = ofLines(a, b, within, { parallel: 'Distance', skew: 'Shortest distance of the lines' });
    return found;
  }),
  rule(
    ['line', 'circle'],
    {
      square: { when: 'square to its plane', leads: 'Line to the axis', beneath: ['To the curve'] },
      any: { when: 'else', leads: 'Line to the centre', beneath: ['Angle to its plane'] },
    },
    (a, b, within) => {
      const foot = footOnLine(b.origin, a);
      const away = distance(foot, b.origin);
      const runs = parallel(a.axis, b.axis, smaller(a, b), within);
      if (runs.answer === 'not')
        return {
          case: 'any',
          lead: fact('Line to the centre', 'length', away),
          rows: [fact('Angle to its plane', 'angle', Math.PI / 2 - angleOfLines(a.axis, b.axis))],
          dimension: [foot, b.origin],
        };
      return {
        case: 'square',
        lead: fact('Line to the axis', 'length', away, off('square', runs, smaller(a, b))),
        rows: b.radius === null ? [] : [fact('To the curve', 'length', Math.abs(away - b.radius))],
        dimension: [foot, b.origin],
      };
    },
  ),
  rule(
    ['line', 'plane'],
    {
      parallel: { when: 'parallel', leads: 'Distance', beneath: [] },
      any: { when: 'else', leads: 'Angle to the plane', beneath: ['Angle to its normal', 'Meets it at'] },
    },
    (a, b, within) => {
      const runs = square(a.axis, b.axis, smaller(a, b), within);
      const toNormal = angleOfLines(a.axis, b.axis);
      if (runs.answer === 'not')
        return {
          case: 'any',
          lead: fact('Angle to the plane', 'angle', Math.PI / 2 - toNormal),
          rows: [fact('Angle to its normal', 'angle', toNormal), at('Meets it at', meets(a, b))],
        };
      const foot = footOnPlane(a.origin, b);
      return {
        case: 'parallel',
        lead: fact('Distance', 'length', distance(a.origin, foot), off('parallel', runs, smaller(a, b))),
        dimension: [a.origin, foot],
      };
    },
  ),
  rule(
    ['line', 'turned'],
    {
      ...LINES('Line to the axis', 'Shortest distance of line and axis'),
      parallel: {
        when: 'parallel',
        leads: 'Line to the axis',
        beneath: ['To the wall', 'Angle (where nearly parallel)'],
      },
    },
    (a, b, within) => {
      const found = ofLines(a, b, within, {
        parallel: 'Line to the axis',
        skew: 'Shortest distance of line and axis',
      });
      if (found.case !== 'parallel' || b.radius === null) return found;
      // Along an axis a line keeps its distance from the wall, inside it as well as outside.
      const away = distance(a.origin, footOnLine(a.origin, b));
      return { ...found, rows: [fact('To the wall', 'length', Math.abs(away - b.radius)), ...found.rows] };
    },
  ),
  rule(['line', 'sphere'], one('From the centre', 'From the surface'), (a, b, within) => {
    const foot = footOnLine(b.origin, a);
    const away = distance(foot, b.origin);
    return {
      case: 'any',
      lead: fact('From the centre', 'length', away),
      rows: [toWall(away, b.radius, within, 'From the surface')],
      dimension: [foot, b.origin],
    };
  }),
];
