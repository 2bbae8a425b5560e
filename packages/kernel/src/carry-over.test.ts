import { multiply, vecOf, type Vec3 } from '@bathyscope/core/math';
import { listOccurrences, partKeys, type ComponentPath, type StructureNode } from '@bathyscope/core/model';
import { fingerprintOf, type Reference } from '@bathyscope/core/references';
import {
  carriedReference,
  matchParts,
  matchStructures,
  partsAlike,
  unchangedPart,
  type MatchedPart,
} from '@bathyscope/core/revisions';
import { convertStep } from './reading/convert-step.ts';
import {
  at,
  component,
  firstRig,
  makeRevision,
  PARTS,
  type MadePart,
  type MadeRevision,
  type Rig,
} from './testing/made-revisions.ts';
import { madeSolids } from './testing/made-solids.ts';
import { testKernel } from './testing/test-kernel.ts';

/*
 * What is kept of a model, looked up on revisions of it whose truth is known by construction: the model is
 * made from dimensions, each face knows what it is, edges and corners what meets in them, components a name
 * that the structure does not show.
 */

const KINDS = ['component', 'face', 'edge', 'vertex', 'body'] as const;
const RECORDS = 2000;

/** Finds a child by its path of names. */
const child = (root: StructureNode, ...path: (string | number)[]): StructureNode =>
  path.reduce<StructureNode>(
    (node, step) =>
      typeof step === 'number' ? node.children![step] : node.children!.find((c) => c.name === step)!,
    root,
  );

const turned: ReturnType<typeof at> = [0, 0, 1, 0, 1, 0, 0, 0, 0, 1, 0, 0, 1000, 0, 0, 1];
/** Each changes the rig it is given. */
const EDITS: Record<string, (rig: Rig) => void> = {
  'nothing changed': () => {},
  'a part renamed': (rig) => (rig.names['bracket'] = 'Angle'),
  'all parts renamed': (rig) => PARTS.forEach((p, i) => (rig.names[p] = `Item ${i}`)),
  'a component moved in the structure': ({ root }) => {
    const legs = child(root, 'Legs').children!;
    const [pin] = legs[1].children!.splice(1, 1);
    root.children!.push({ ...pin, placement: multiply(legs[1].placement, pin.placement) });
  },
  'an assembly dissolved': ({ root }) => {
    const washers = child(root, 'Washers');
    root.children = root.children!.flatMap((c) => (c === washers ? washers.children! : [c]));
  },
  'a hole moved by 2 mm': ({ holes }) => (holes['hole 1 1'] = [-18, 0, 3]),
  'a hole removed': ({ holes }) => delete holes['hole 2 0'],
  'a hole added': ({ holes }) => (holes['new'] = [0, 15, 3]),
  'a hole drilled larger': ({ holes }) => (holes['hole 0 2'] = [-60, 30, 4.2]),
  'one hole removed and another put elsewhere': ({ holes }) => {
    delete holes['hole 3 2'];
    holes['new'] = [40, 15, 3];
  },
  'all holes of the pattern moved by 2 mm': ({ holes }) => {
    for (const [name, [x, y, r]] of Object.entries(holes))
      if (name.startsWith('hole')) holes[name] = [x + 2, y, r];
  },
  'a face split': (rig) => (rig.groove = true),
  'a fillet added': (rig) => (rig.fillet = 4),
  'a chamfer added': (rig) => (rig.chamfer = 2),
  'a pocket filled': (rig) => (rig.pocket = false),
  'a plate made thicker': (rig) => (rig.thickness = 12),
  'a plate made longer': (rig) => (rig.right = 120),
  'a cross hole moved': (rig) => (rig.bracketHole = 33),
  'another number of holes in a ring': (rig) => (rig.flangeHoles = 8),
  'everything shifted by 1 m and turned': ({ root }) => (root.placement = turned),
  'all parts laid otherwise in their frames': (rig) => (rig.baked = turned),
  'an instance added before others of the same name': ({ root }) =>
    void child(root, 'Washers').children!.unshift(component('washer', 'Washer', at(-80, 0, 10))),
  'the first of several equal ones removed': ({ root }) => void child(root, 'Washers').children!.shift(),
  'one of several equal ones removed and one put elsewhere': ({ root }) => {
    child(root, 'Washers').children!.splice(4, 1);
    child(root, 'Washers').children!.push(component('washer', 'Washer', at(80, 0, 10)));
  },
  'an assembly of several equal ones moved': ({ root }) => {
    const legs = child(root, 'Legs').children!;
    legs[2] = { ...legs[2], placement: at(95, 60, -60, 2) };
  },
  'an equal assembly added before the others': ({ root }) => {
    const legs = child(root, 'Legs').children!;
    legs.unshift({
      ...legs[0],
      placement: at(0, 0, -60),
      children: legs[0].children!.map((c) => ({ ...c })),
    });
  },
  'another part under the old name': ({ root }) => {
    const place = root.children!.findIndex((c) => c.name === 'Cube');
    root.children![place] = component('lid', 'Cube', at(0, 80, 0));
  },
  'the order of all entities shuffled': (rig) => (rig.written = 'shuffled'),
  'all surfaces written as splines': (rig) => (rig.written = 'as splines'),
  'taken for inches': (rig) => (rig.written = 'in inches'),
};

/** What a component is, whatever its path: nodes that an edit keeps carry their mark along. */
function marked(rig: Rig): Rig {
  let n = 0;
  const mark = (node: StructureNode): void => {
    (node as { mark?: number }).mark = n++;
    node.children?.forEach(mark);
  };
  mark(rig.root);
  return rig;
}

function marksOf(structure: MadeRevision['structure']): Map<ComponentPath, number | undefined> {
  const marks: (number | undefined)[] = [];
  const visit = (node: StructureNode): void => {
    marks.push((node as { mark?: number }).mark);
    node.children?.forEach(visit);
  };
  visit(structure.root);
  return new Map(listOccurrences(structure).map((o, i) => [o.path, marks[i]]));
}

describe('records looked up on revisions', () => {
  const known = new Map<string, MadePart>();
  let make: (rig: Rig) => MadeRevision;
  let first: MadeRevision;
  let records: { reference: Reference; is: string }[];
  const table: string[] = [];

  beforeAll(async () => {
    const kernel = await testKernel();
    const solids = madeSolids(kernel.oc);
    const fromText = (text: string) => {
      let geometry: MadePart['geometry'] | undefined;
      convertStep(kernel, new TextEncoder().encode(text), 'part', {
        onGeometry: (g) => (geometry = g.geometry),
      });
      return geometry!;
    };
    make = (rig) => makeRevision(kernel.oc, solids, rig, fromText, known);
    first = make(marked(firstRig()));
    records = someRecords(first);
  });

  afterAll(() =>
    console.log(`records   found  probably  lost though there  lost and gone  wrong\n${table.join('\n')}`),
  );

  test.each(Object.keys(EDITS))('%s: none is found as another thing', (name) => {
    const rig = marked(firstRig());
    EDITS[name](rig);
    const now = make(rig);
    const result = lookUpAll(first, now, records);
    table.push(
      `${RECORDS}  ${[result.found, result.probably, result.missed, result.gone, result.wrong.length].map((x) => String(x).padStart(8)).join('')}  ${name}`,
    );
    expect(result.wrong).toEqual([]);
    // What there is to find is found, but where nobody could tell: under 3 % in all edits but those that
    // leave nothing as it was.
    if (!LEAVE_NOTHING.includes(name)) expect(result.missed / RECORDS).toBeLessThan(0.03);
  });
});

/** All sizes are others; and a cube and whatever else is symmetric can lie in any of several ways. */
const LEAVE_NOTHING = ['taken for inches', 'all parts laid otherwise in their frames'];

/** Records of all kinds of things, of which each is the only one of its name in its part. */
function someRecords({ structure, parts }: MadeRevision): { reference: Reference; is: string }[] {
  const keys = partKeys(structure);
  const marks = marksOf(structure);
  const all = listOccurrences(structure);
  const single = all.filter((o) => o.depth === 1 && o.part !== undefined);
  let seed = 1;
  const random = (below: number) =>
    Math.floor(((seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647) * below);
  const list: { reference: Reference; is: string }[] = [];
  while (list.length < RECORDS) {
    // Most of the parts that are edited, of which there is one each.
    const o = random(10) < 7 ? single[random(single.length)] : all[random(all.length)];
    const kind = KINDS[random(KINDS.length)];
    const of = { component: o.path, ...(o.part !== undefined && { part: keys[o.part] }) };
    const mark = String(marks.get(o.path));
    if (kind === 'component' || o.part === undefined) {
      list.push({ reference: { kind: 'component', ...of }, is: mark });
      continue;
    }
    const { geometry, labels } = parts[o.part];
    const index = random(labels[kind].length);
    const label = labels[kind][index];
    if (labels[kind].filter((l) => l === label).length > 1 || label.startsWith('seam')) continue;
    const position = kind === 'face' ? { position: pointOn(geometry, index) } : {};
    list.push({
      reference: { kind, ...of, index, fingerprint: fingerprintOf(kind, index, geometry), ...position },
      is: `${mark} ${kind} ${label}`,
    });
  }
  return list;
}

/** Middle of a face's first triangle. */
function pointOn({ mesh, origin }: MadePart['geometry'], face: number): Vec3 {
  const t = 3 * mesh.faceStart[face];
  return vecOf(
    (k) => origin[k] + [0, 1, 2].reduce((s, i) => s + mesh.positions[3 * mesh.indices[t + i] + k], 0) / 3,
  );
}

function lookUpAll(
  was: MadeRevision,
  is: MadeRevision,
  records: readonly { reference: Reference; is: string }[],
) {
  const match = matchStructures(was.structure, is.structure, (o, n) =>
    partsAlike(was.parts[o].geometry, is.parts[n].geometry),
  );
  const [before, now] = [was.structure, is.structure].map(
    (s) => new Map(listOccurrences(s).map((o) => [o.path, o])),
  );
  const [keysBefore, keysNow] = [partKeys(was.structure), partKeys(is.structure)];
  const matched = new Map<string, MatchedPart>();
  const things = (path: ComponentPath) => {
    const [o, n] = [before.get(path)?.part, now.get(match.components.get(path)?.to ?? '')?.part];
    if (o === undefined || n === undefined) return undefined;
    const [a, b] = [was.parts[o].geometry, is.parts[n].geometry];
    const key = `${o} ${n}`;
    if (!matched.has(key))
      matched.set(
        key,
        was.structure.parts[o].geometry === is.structure.parts[n].geometry
          ? unchangedPart(b)
          : matchParts(a, b),
      );
    return { matched: matched.get(key)!, geometry: b };
  };
  const marks = marksOf(is.structure);
  const known = new Set(marks.values());
  const there = (text: string): boolean => {
    const [mark, kind, ...label] = text.split(' ');
    if (!known.has(Number(mark))) return false;
    if (!kind) return true;
    const path = [...marks].find(([, m]) => m === Number(mark))![0];
    return is.parts[now.get(path)!.part!].labels[kind as 'face'].includes(label.join(' '));
  };
  const result = { found: 0, probably: 0, missed: 0, gone: 0, wrong: [] as string[] };
  for (const { reference, is: wanted } of records) {
    const carried = carriedReference(
      reference,
      {
        component: (path) => match.components.get(path),
        part: (key) => {
          const to = match.parts.get(keysBefore.indexOf(key));
          return to && { to: keysNow[to.to], certain: to.certain };
        },
        things,
        placements: (path) => ({
          was: before.get(path)!.placement,
          is: now.get(match.components.get(path)!.to)!.placement,
        }),
        motion: match.motion,
      },
      (path) => (now.get(path)?.part === undefined ? undefined : keysNow[now.get(path)!.part!]),
    );
    if (carried.became === 'lost') {
      if (there(wanted)) result.missed++;
      else result.gone++;
      continue;
    }
    const r = carried as Extract<Reference, { index: number }>;
    const mark = String(marks.get(r.component));
    const label =
      r.kind === ('component' as string)
        ? mark
        : `${mark} ${r.kind} ${is.parts[now.get(r.component)!.part!].labels[r.kind as 'face'][r.index]}`;
    if (label !== wanted) result.wrong.push(`${wanted} → ${label} (${carried.became ?? 'found'})`);
    else if (!carried.became) result.found++;
    else result.probably++;
  }
  result.wrong = [...new Set(result.wrong)].slice(0, 10);
  return result;
}
