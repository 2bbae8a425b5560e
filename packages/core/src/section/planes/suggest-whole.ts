import type { FaceFacts, PartGeometry } from '../../geometry/part-geometry.ts';
import { cross, dot, length, subtract } from '../../math/vec3.ts';
import { COAXIAL_RELATIVE, PARALLEL_ANGLE } from '../../tolerances.ts';

/*
 * Which parts drawing practice does not cut lengthwise: fasteners, shafts, pins, keys, balls (ISO 128-3:2020,
 * cuts and sections). A suggestion only, each with its reason; the user decides.
 */

const WORDS: [RegExp, string][] = [
  [/\b(bolt|screw|schraube|vis)\b/i, 'bolt or screw'],
  [/\b(nut|mutter|écrou)\b/i, 'nut'],
  [/\b(washer|scheibe|rondelle)\b/i, 'washer'],
  [/\b(stud|rivet|niet)\b/i, 'fastener'],
  [/\b(dowel|pin|stift|goupille)\b/i, 'pin'],
  [/\b(shaft|spindle|axle|arbor|welle|arbre)\b/i, 'shaft'],
  [/\b(key|passfeder|clavette)\b/i, 'key'],
  [/\b(ball|kugel|bille|roller|needle)\b/i, 'rolling element'],
  [/\b(circlip|retaining ring|snap ring)\b/i, 'retaining ring'],
];

/** Numbers of product standards: hexagon bolts and screws, socket screws, nuts, washers, pins. */
const STANDARDS =
  /\b(?:DIN[ _-]?(?:EN[ _-]?)?)?ISO[ _-]?(4014|4017|4762|7380|10642|4026|4032|4035|7040|7089|7090|7093|8734|2338|8752|2340|2341|1207|2009|7045|7046)\b/i;

/** Length over diameter from which a plain turned part passes for a shaft or pin. */
const SLENDER = 2;

/** The reason why a part is usually left uncut, in a few words; null when nothing speaks for it. */
export function wholeReason(name: string, part: PartGeometry): string | null {
  const words = name.replace(/[_-]+/g, ' ').replace(/([a-z])([A-Z])/g, '$1 $2');
  const word = WORDS.find(([pattern]) => pattern.test(words));
  if (word) return `named as a ${word[1]}`;
  const standard = STANDARDS.exec(name);
  if (standard) return `named after ISO ${standard[1]}`;
  return shapeReason(part);
}

function shapeReason({ faces, bodies, box }: PartGeometry): string | null {
  if (!bodies.length || !bodies.every((b) => b.closed)) return null;
  const [first] = faces;
  if (
    first?.surface === 'sphere' &&
    faces.every((f) => f.surface === 'sphere' && !f.concave && f.radius === first.radius)
  )
    return 'a ball by its shape';
  const turned = faces.find((f) => f.surface === 'cylinder');
  if (!turned?.axis || !turned.origin || !faces.every((f) => isAbout(f, turned))) return null;
  // A bore along the axis makes it a bush, a sleeve or a housing.
  if (faces.some((f) => f.concave && f.surface === 'cylinder')) return null;
  const radius = Math.max(...faces.map((f) => (f.surface === 'cylinder' ? (f.radius ?? 0) : 0)));
  const reach = [0, 1, 2].reduce((sum, k) => sum + (box.max[k] - box.min[k]) * Math.abs(turned.axis![k]), 0);
  const across = [0, 1, 2].reduce(
    (sum, k) =>
      sum + 2 * radius * Math.sqrt(Math.max(0, 1 - turned.axis![k] ** 2)) * Math.abs(turned.axis![k]),
    0,
  );
  return reach - across >= SLENDER * 2 * radius ? 'a shaft or pin by its shape' : null;
}

/** Whether a face is turned about the axis of another, or flat across it. */
function isAbout(f: FaceFacts, { axis, origin, radius }: FaceFacts): boolean {
  if (!f.axis) return false;
  if (length(cross(f.axis, axis!)) > PARALLEL_ANGLE) return false;
  if (f.surface === 'plane') return true;
  if (!['cylinder', 'cone', 'torus'].includes(f.surface) || !f.origin) return false;
  const off = subtract(f.origin, origin!);
  return (
    length(subtract(off, axis!.map((x) => x * dot(off, axis!)) as unknown as typeof off)) <=
    COAXIAL_RELATIVE * Math.max(radius ?? 0, 1)
  );
}
