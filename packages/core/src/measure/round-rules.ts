import type { Fact } from '../facts/describe-pick.ts';
import { addScaled, distance, dot, subtract } from '../math/vec3.ts';
import type { Shape } from './measured-shape.ts';
import {
  at,
  fact,
  LINES,
  off,
  ofLines,
  one,
  rule,
  sameAxis,
  says,
  sideOf,
  smaller,
  toWall,
  type PairRule,
} from './pair-rule.ts';
import {
  angleOfLines,
  footOnLine,
  footOnPlane,
  judge,
  lineOfPlanes,
  meets,
  parallel,
  square,
} from './relations.ts';

/** Circles, planes, turned things and spheres to each other. */
export const ROUND_RULES: readonly PairRule[] = [
  rule(
    ['circle', 'circle'],
    {
      same: { when: 'same axis', leads: 'Distance of their planes', beneath: ['Difference of diameters'] },
      parallel: {
        when: 'parallel axes',
        leads: 'Centre to centre',
        beneath: ['In the plane', 'Along the axis'],
      },
      any: { when: 'else', leads: 'Centre to centre', beneath: ['Angle of the axes'] },
    },
    (a, b, within) => {
      const size = smaller(a, b);
      const runs = parallel(a.axis, b.axis, size, within);
      const centres = fact('Centre to centre', 'length', distance(a.origin, b.origin));
      const dimension = [a.origin, b.origin] as const;
      if (runs.answer === 'not')
        return {
          case: 'any',
          lead: centres,
          rows: [fact('Angle of the axes', 'angle', angleOfLines(a.axis, b.axis))],
          dimension,
        };
      const along = Math.abs(dot(subtract(b.origin, a.origin), a.axis));
      const aside = distance(footOnLine(b.origin, a), b.origin);
      const same = judge(aside, within);
      if (same.answer === 'not')
        return {
          case: 'parallel',
          lead: { ...centres, ...(off('parallel', runs, size) && { note: off('parallel', runs, size) }) },
          rows: [fact('In the plane', 'length', aside), fact('Along the axis', 'length', along)],
          dimension,
        };
      return {
        case: 'same',
        lead: fact('Distance of their planes', 'length', along, sameAxis(same)),
        rows:
          a.radius === null || b.radius === null
            ? []
            : [fact('Difference of diameters', 'length', 2 * Math.abs(a.radius - b.radius))],
        dimension,
      };
    },
  ),
  rule(
    ['circle', 'plane'],
    {
      parallel: { when: 'its plane parallel', leads: 'Distance of the planes', beneath: [] },
      any: { when: 'else', leads: 'Centre to the plane', beneath: ['It lies', 'Angle of the planes'] },
    },
    (a, b, within) => {
      const runs = parallel(a.axis, b.axis, smaller(a, b), within);
      const foot = footOnPlane(a.origin, b);
      const away = distance(a.origin, foot);
      if (runs.answer !== 'not')
        return {
          case: 'parallel',
          lead: fact('Distance of the planes', 'length', away, off('parallel', runs, smaller(a, b))),
          dimension: [a.origin, foot],
        };
      return {
        case: 'any',
        lead: fact('Centre to the plane', 'length', away),
        rows: [
          ...sideOf(a.origin, b, within),
          fact('Angle of the planes', 'angle', angleOfLines(a.axis, b.axis)),
        ],
        dimension: [a.origin, foot],
      };
    },
  ),
  rule(
    ['circle', 'turned'],
    {
      same: { when: 'same axis', leads: 'Difference of diameters', beneath: ['Axis'] },
      parallel: { when: 'parallel axes', leads: 'Axis to axis', beneath: [] },
      any: { when: 'else', leads: 'Centre to the axis', beneath: ['Angle of the axes'] },
    },
    (a, b, within) => {
      const size = smaller(a, b);
      const runs = parallel(a.axis, b.axis, size, within);
      const foot = footOnLine(a.origin, b);
      const away = distance(a.origin, foot);
      if (runs.answer === 'not')
        return {
          case: 'any',
          lead: fact('Centre to the axis', 'length', away),
          rows: [fact('Angle of the axes', 'angle', angleOfLines(a.axis, b.axis))],
          dimension: [a.origin, foot],
        };
      const same = judge(away, within);
      if (same.answer !== 'not' && a.radius !== null && b.radius !== null)
        return {
          case: 'same',
          lead: fact('Difference of diameters', 'length', 2 * Math.abs(a.radius - b.radius)),
          rows: [says('Axis', sameAxis(same) ?? 'the same')],
        };
      return {
        case: 'parallel',
        lead: fact('Axis to axis', 'length', away, off('parallel', runs, size)),
        dimension: [a.origin, foot],
      };
    },
  ),
  rule(['circle', 'sphere'], one('Centre to centre'), (a, b) => ({
    case: 'any',
    lead: fact('Centre to centre', 'length', distance(a.origin, b.origin)),
    dimension: [a.origin, b.origin],
  })),
  rule(
    ['plane', 'plane'],
    {
      same: { when: 'in one plane', leads: 'Least distance', beneath: ['They lie', 'They look'] },
      parallel: {
        when: 'parallel',
        leads: 'Normal distance',
        beneath: ['They look', 'Angle (where nearly parallel)'],
      },
      material: {
        when: 'at an angle, the material between them',
        leads: 'Angle through the material',
        beneath: ['Through the air', 'They meet along', 'They meet at'],
      },
      air: {
        when: 'at an angle, the air between them',
        leads: 'Angle through the air',
        beneath: ['Through the material', 'They meet along', 'They meet at'],
      },
      any: {
        when: 'at an angle, the sides of no one corner',
        leads: 'Angle',
        beneath: ['They meet along', 'They meet at'],
      },
    },
    (a, b, within) => {
      const size = smaller(a, b);
      const runs = parallel(a.axis, b.axis, size, within);
      if (runs.answer !== 'not') {
        const foot = footOnPlane(a.origin, b);
        const away = dot(subtract(b.origin, a.origin), a.axis);
        const facing =
          dot(a.axis, b.axis) > 0 ? 'the same way' : away > 0 ? 'at each other' : 'away from each other';
        if (Math.abs(away) <= within)
          return {
            case: 'same',
            lead: null,
            rows: [
              says('They lie', 'in one plane'),
              says('They look', dot(a.axis, b.axis) > 0 ? 'the same way' : 'opposite ways'),
            ],
          };
        return {
          case: 'parallel',
          lead: fact('Normal distance', 'length', distance(a.origin, foot), off('parallel', runs, size)),
          rows: [
            says('They look', facing),
            ...(runs.answer === 'nearly' ? [fact('Angle', 'angle', angleOfLines(a.axis, b.axis))] : []),
          ],
          dimension: [a.origin, foot],
        };
      }
      const line = lineOfPlanes(a, b);
      const where: Fact[] = [
        { label: 'They meet along', value: { kind: 'direction', value: line.axis } },
        at('They meet at', line.origin),
      ];
      const normals = Math.acos(Math.max(-1, Math.min(1, dot(a.axis, b.axis))));
      // Each behind the other: the material lies between them; each before the other: the air.
      const behind = [
        dot(subtract(b.origin, a.origin), a.axis) < 0,
        dot(subtract(a.origin, b.origin), b.axis) < 0,
      ];
      if (!a.bounds || !b.bounds || behind[0] !== behind[1])
        return { case: 'any', lead: fact('Angle', 'angle', angleOfLines(a.axis, b.axis)), rows: where };
      const [material] = behind;
      const [between, around] = [Math.PI - normals, Math.PI + normals];
      return material
        ? {
            case: 'material',
            lead: fact('Angle through the material', 'angle', between),
            rows: [fact('Through the air', 'angle', around), ...where],
          }
        : {
            case: 'air',
            lead: fact('Angle through the air', 'angle', between),
            rows: [fact('Through the material', 'angle', around), ...where],
          };
    },
  ),
  rule(
    ['plane', 'turned'],
    {
      parallel: {
        when: 'its axis parallel to the plane',
        leads: 'Axis to the plane',
        beneath: ['Least to the wall'],
      },
      square: { when: 'its axis square on the plane', leads: 'Depth to the plane', beneath: ['Axis'] },
      any: { when: 'else', leads: 'Angle of axis and plane', beneath: ['Meets it at'] },
    },
    (a, b, within) => {
      const size = smaller(a, b);
      const flat = square(a.axis, b.axis, size, within);
      if (flat.answer !== 'not') {
        const foot = footOnPlane(b.origin, a);
        const away = distance(b.origin, foot);
        return {
          case: 'parallel',
          lead: fact('Axis to the plane', 'length', away, off('parallel', flat, size)),
          rows: b.radius === null ? [] : [toWall(away, b.radius, within, 'Least to the wall')],
          dimension: [b.origin, foot],
        };
      }
      const upright = parallel(a.axis, b.axis, size, within);
      const end = addScaled(b.origin, b.axis, b.from);
      if (upright.answer !== 'not') {
        const foot = footOnPlane(end, a);
        return {
          case: 'square',
          lead: fact('Depth to the plane', 'length', distance(end, foot)),
          rows: [says('Axis', off('square', upright, size) ?? 'square on it')],
          dimension: [end, foot],
        };
      }
      return {
        case: 'any',
        lead: fact('Angle of axis and plane', 'angle', Math.PI / 2 - angleOfLines(a.axis, b.axis)),
        rows: [at('Meets it at', meets(b, a))],
      };
    },
  ),
  rule(['plane', 'sphere'], one('Centre to the plane', 'Least to the surface', 'It lies'), (a, b, within) => {
    const foot = footOnPlane(b.origin, a);
    const away = distance(b.origin, foot);
    return {
      case: 'any',
      lead: fact('Centre to the plane', 'length', away),
      rows: [toWall(away, b.radius, within, 'Least to the surface'), ...sideOf(b.origin, a, within)],
      dimension: [b.origin, foot],
    };
  }),
  rule(
    ['turned', 'turned'],
    {
      fit: {
        when: 'same axis, bore and shaft',
        leads: 'Difference of diameters',
        beneath: ['It is', 'Length of engagement', 'Axis'],
      },
      same: { when: 'same axis, else', leads: 'Difference of diameters', beneath: ['Axis'] },
      axis: { when: 'same axis, a cone or torus', leads: 'Offset of the axes', beneath: ['Axis'] },
      ...LINES('Axis to axis', 'Shortest distance of the axes'),
      parallel: {
        when: 'parallel, side by side or cutting each other',
        leads: 'Axis to axis',
        beneath: ['Wall to wall', 'Over both walls', 'Angle (where nearly parallel)'],
      },
      inside: {
        when: 'parallel, one inside the other',
        leads: 'Axis to axis',
        beneath: ['Least between the walls', 'Greatest between the walls', 'Angle (where nearly parallel)'],
      },
    },
    (a, b, within) => {
      const runs = parallel(a.axis, b.axis, smaller(a, b), within);
      const aside = distance(a.origin, footOnLine(a.origin, b));
      const same = judge(aside, within);
      if (runs.answer !== 'not' && same.answer !== 'not') {
        const axis = says('Axis', sameAxis(same) ?? 'the same');
        if (a.radius === null || b.radius === null)
          return { case: 'axis', lead: fact('Offset of the axes', 'length', aside), rows: [axis] };
        if (a.hollow === b.hollow)
          return {
            case: 'same',
            lead: fact('Difference of diameters', 'length', 2 * Math.abs(a.radius - b.radius)),
            rows: [axis],
          };
        const [bore, shaft] = a.hollow ? [a.radius, b.radius] : [b.radius, a.radius];
        const play = 2 * (bore - shaft);
        return {
          case: 'fit',
          lead: fact('Difference of diameters', 'length', Math.abs(play)),
          rows: [
            says(
              'It is',
              Math.abs(play) <= within
                ? 'neither clearance nor interference'
                : play > 0
                  ? 'clearance'
                  : 'interference',
            ),
            fact('Length of engagement', 'length', engagement(a, b)),
            axis,
          ],
        };
      }
      const found = ofLines(a, b, within, {
        parallel: 'Axis to axis',
        skew: 'Shortest distance of the axes',
      });
      if (found.case !== 'parallel' || a.radius === null || b.radius === null) return found;
      const [large, small] = [Math.max(a.radius, b.radius), Math.min(a.radius, b.radius)];
      // R − r ∓ e: beside each other nothing is between, and inside nothing is over both.
      if (aside + small <= large + within)
        return {
          ...found,
          case: 'inside' as const,
          rows: [
            fact('Least between the walls', 'length', Math.max(0, large - small - aside)),
            fact('Greatest between the walls', 'length', large - small + aside),
            ...found.rows,
          ],
        };
      return {
        ...found,
        rows: [
          toWall(aside, large + small, within, 'Wall to wall'),
          fact('Over both walls', 'length', aside + large + small),
          ...found.rows,
        ],
      };
    },
  ),
  rule(['turned', 'sphere'], one('Centre to the axis', 'Difference of diameters'), (a, b) => {
    const foot = footOnLine(b.origin, a);
    return {
      case: 'any',
      lead: fact('Centre to the axis', 'length', distance(b.origin, foot)),
      rows:
        a.radius === null
          ? []
          : [fact('Difference of diameters', 'length', 2 * Math.abs(a.radius - b.radius))],
      dimension: [b.origin, foot],
    };
  }),
  rule(['sphere', 'sphere'], one('Centre to centre', 'Surface to surface'), (a, b, within) => {
    const apart = distance(a.origin, b.origin);
    const inside = Math.abs(a.radius - b.radius) - apart;
    return {
      case: 'any',
      lead: fact('Centre to centre', 'length', apart),
      rows: [
        inside >= 0
          ? fact('Surface to surface', 'length', inside)
          : toWall(apart, a.radius + b.radius, within, 'Surface to surface'),
      ],
      dimension: [a.origin, b.origin],
    };
  }),
];

/** mm along the common axis over which both are. */
function engagement(a: Shape<'turned'>, b: Shape<'turned'>): number {
  const shift = dot(subtract(b.origin, a.origin), a.axis);
  const sense = Math.sign(dot(a.axis, b.axis));
  const ends = [shift + sense * b.from, shift + sense * b.to];
  return Math.max(0, Math.min(a.to, Math.max(...ends)) - Math.max(a.from, Math.min(...ends)));
}
