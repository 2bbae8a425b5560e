/*
 * The product structure of a STEP file straight from its text (ISO 10303-44, and -43 for the placements). The
 * kernel takes time that grows with the square of how often one part is used, and overflows in deep trees; so
 * of files with many uses or many levels it is given the products alone, and what holds what,
 * and where, is read here.
 */

import {
  cross,
  dot,
  IDENTITY,
  invertAffine,
  length,
  multiply,
  normalize,
  scale,
  subtract,
  type Mat4,
  type Vec3,
} from '@bathyscope/core/math';
import type { StructureNode } from '@bathyscope/core/model';
import { TINY } from '@bathyscope/core/tolerances';
import { parametersOf, stepStatements, stringOf, type StepStatement } from './step-statements.ts';
import { IN_MM, ModelFileError, unitSymbol, USE } from './step-text.ts';
import { MADE_UP_NAME } from './made-up-names.ts';
import { vectorOf } from './step-operators.ts';

/** Uses of one product from which on the kernel's square tells. */
const MANY_USES = 400;
/**
 * Levels that a structure is shown with. What lies deeper is hung there: nobody opens so many, and paths and
 * calls stay short.
 */
export const MOST_LEVELS = 200;
/** Components of a model, each use counted: a file of a kilobyte could ask for any number. */
const MOST_COMPONENTS = 1_000_000;
/**
 * Bytes of one statement that is read: a node's representation lists a placement for each of its children.
 */
const LONGEST = 50_000_000;

interface Use {
  child: string;
  name: string;
  placement: Mat4;
}

/** What was read from the text, and the text that the kernel is given. */
export interface AssemblyText {
  bytes: Uint8Array;
  /**
   * The trees, from what the kernel made of each product alone. What lies below level
   * MOST_LEVELS is hung there.
   * @param alone by the name that the product has in `bytes`
   */
  compose(alone: ReadonlyMap<string, StructureNode>): StructureNode[];
  /** Those of them that hold others, and need no shape of their own. */
  holders: ReadonlySet<string>;
  /**
   * Those of them that the file gives a shape, if an empty one: one that the kernel does not
   * name shares that of another.
   */
  shaped: ReadonlySet<string>;
  /** How deep the file has it. */
  levels: number;
  /** The names that the products have in the file by those that they have in `bytes`. */
  names: ReadonlyMap<string, string>;
}

/**
 * @param held what the file says that products hold, each use once: parent and child
 * @param manyUses of one product, from which on the text is read
 * @returns null where the kernel reads the structure well itself, or the text of it is not understood in full
 * @throws ModelFileError where a product holds itself, or there are more components than can be opened
 */
export function readAssemblyText(
  bytes: Uint8Array,
  held: readonly (readonly [parent: string, child: string])[],
  manyUses = MANY_USES,
): AssemblyText | null {
  const { levels, mostUses } = measure(held);
  if (mostUses <= manyUses && levels <= MOST_LEVELS) return null;
  const read = new StructureText(bytes);
  const uses = read.uses();
  if (!uses) return null;
  const names = read.names();
  if (!names) return null;
  const marked = new Map([...names.keys()].map((definition, i) => [definition, `@product ${i}@`]));
  const marks = (definitions: Iterable<string>) =>
    new Set([...definitions].flatMap((definition) => marked.get(definition) ?? []));
  return {
    bytes: read.withoutUses(marked),
    names: new Map([...names].map(([definition, name]) => [marked.get(definition)!, name])),
    holders: marks(uses.keys()),
    shaped: marks(read.shaped.keys()),
    levels,
    compose: (alone) => compose(uses, names, (definition) => alone.get(marked.get(definition)!)),
  };
}

/**
 * How deep a structure is, and how often its most used product is used in it; in time linear in the uses.
 * @throws ModelFileError
 */
function measure(held: readonly (readonly [parent: string, child: string])[]): {
  levels: number;
  mostUses: number;
} {
  const children = new Map<string, string[]>();
  const waits = new Map<string, number>();
  for (const [parent, child] of held) {
    listed(children, parent).push(child);
    waits.set(child, (waits.get(child) ?? 0) + 1);
  }
  const mostUses = [...waits.values()].reduce((most, n) => Math.max(most, n), 0);
  const ready = [...children.keys()].filter((id) => !waits.has(id));
  const depths = new Map(ready.map((id) => [id, 1]));
  const counts = new Map(ready.map((id) => [id, 1]));
  let [levels, components] = [0, 0];
  while (ready.length) {
    const parent = ready.pop()!;
    const [depth, count] = [depths.get(parent)!, counts.get(parent)!];
    levels = Math.max(levels, depth);
    components += count;
    for (const child of children.get(parent) ?? []) {
      depths.set(child, Math.max(depths.get(child) ?? 0, depth + 1));
      counts.set(child, (counts.get(child) ?? 0) + count);
      const left = waits.get(child)! - 1;
      waits.set(child, left);
      if (left === 0) ready.push(child);
    }
  }
  if ([...waits.values()].some((left) => left > 0))
    throw new ModelFileError(
      'The structure of the STEP file contradicts itself: a product in it holds itself. Export it again.',
    );
  if (components > MOST_COMPONENTS)
    throw new ModelFileError(
      `The STEP file asks for more than ${MOST_COMPONENTS.toLocaleString('en')} components, each use counted, which is more than can be opened. Export a part of the assembly.`,
    );
  return { levels, mostUses };
}

const listed = <T>(lists: Map<string, T[]>, key: string): T[] => {
  const known = lists.get(key);
  if (known) return known;
  const made: T[] = [];
  lists.set(key, made);
  return made;
};

const FORMATIONS = ['PRODUCT_DEFINITION_FORMATION', 'PRODUCT_DEFINITION_FORMATION_WITH_SPECIFIED_SOURCE'];
const DEFINITIONS = ['PRODUCT_DEFINITION', 'PRODUCT_DEFINITION_WITH_ASSOCIATED_DOCUMENTS'];
/** Representations whose items placements can be. */
const REPRESENTATIONS = [
  'SHAPE_REPRESENTATION',
  'ADVANCED_BREP_SHAPE_REPRESENTATION',
  'FACETED_BREP_SHAPE_REPRESENTATION',
  'MANIFOLD_SURFACE_SHAPE_REPRESENTATION',
  'GEOMETRICALLY_BOUNDED_SURFACE_SHAPE_REPRESENTATION',
  'GEOMETRICALLY_BOUNDED_WIREFRAME_SHAPE_REPRESENTATION',
];
const READ = [
  ...[
    'PRODUCT',
    USE,
    'PRODUCT_DEFINITION_SHAPE',
    'CONTEXT_DEPENDENT_SHAPE_REPRESENTATION',
    'SHAPE_DEFINITION_REPRESENTATION',
  ],
  ...['ITEM_DEFINED_TRANSFORMATION', 'AXIS2_PLACEMENT_3D', ''],
  ...FORMATIONS,
  ...DEFINITIONS,
  ...REPRESENTATIONS,
];

/** The statements that structure and placements are told by. */
class StructureText {
  private readonly of = new Map(READ.map((type) => [type, new Map<string, StepStatement>()]));
  private readonly bytes: Uint8Array;
  /** The representations of each product definition. */
  readonly shaped: ReadonlyMap<string, ReadonlySet<string>>;
  /** What each shape is of: a product definition, or a use of one. */
  private readonly shapeOf: ReadonlyMap<string, string>;

  constructor(bytes: Uint8Array) {
    this.bytes = bytes;
    for (const statement of stepStatements(bytes, (t) => this.of.has(t), LONGEST))
      this.of.get(statement.type)!.set(statement.id, statement);
    this.shapeOf = new Map(
      this.all('PRODUCT_DEFINITION_SHAPE').map(({ id, body }) => [id, parametersOf(body)[2]]),
    );
    const shaped = new Map<string, Set<string>>();
    for (const { body } of this.all('SHAPE_DEFINITION_REPRESENTATION')) {
      const [shape, representation] = parametersOf(body);
      const definition = this.shapeOf.get(shape) ?? '';
      shaped.set(definition, (shaped.get(definition) ?? new Set<string>()).add(representation));
    }
    this.shaped = shaped;
  }

  private all(...types: string[]): StepStatement[] {
    return types.flatMap((type) => [...this.of.get(type)!.values()]);
  }

  private parameters(type: string, id: string | undefined): string[] {
    return parametersOf(this.of.get(type)!.get(id ?? '')?.body ?? '');
  }

  /**
   * What each product definition holds, in the file's order; null where a placement or a unit is told in a
   * way that is not known here.
   */
  uses(): ReadonlyMap<string, readonly Use[]> | null {
    const unit = this.millimetres();
    if (unit === null || this.all('').some(({ body }) => body.includes(USE))) return null;
    const relations = new Map<string, string>();
    for (const { body } of this.all('CONTEXT_DEPENDENT_SHAPE_REPRESENTATION')) {
      const [relation, shape] = parametersOf(body);
      const use = this.shapeOf.get(shape);
      if (!use || relations.has(use)) return null;
      relations.set(use, relation);
    }
    const frames = this.frames(unit);
    const items = new Map(
      this.all(...REPRESENTATIONS).map(
        ({ id, body }) => [id, new Set(parametersOf(body)[1]?.match(/#\d+/g))] as const,
      ),
    );
    const uses = new Map<string, Use[]>();
    for (const { id, body } of this.all(USE)) {
      const [own, name, description, parent, child] = parametersOf(body);
      const placement = this.placementOf(
        relations.get(id),
        this.shaped.get(child),
        this.shaped.get(parent),
        frames,
        items,
      );
      if (!placement) return null;
      const said = [description, name, own].map((raw) => stringOf(raw ?? '').trim()).find(Boolean) ?? '';
      listed(uses, parent).push({ child, name: said, placement });
    }
    return uses;
  }

  /**
   * By product definition; null where two are of one product, whose shapes the kernel would give one name.
   */
  names(): ReadonlyMap<string, string> | null {
    const products = this.products();
    if (new Set(products.map(({ product }) => product)).size < products.length) return null;
    return new Map(products.map(({ definition, product }) => [definition, this.nameOf(product)]));
  }

  private nameOf(product: string): string {
    const [id, name] = this.parameters('PRODUCT', product).map((raw) => stringOf(raw).trim());
    return name || id || 'Unnamed';
  }

  private products(): { definition: string; product: string }[] {
    const formations = new Map(this.all(...FORMATIONS).map(({ id, body }) => [id, parametersOf(body)[2]]));
    return this.all(...DEFINITIONS).flatMap(({ id, body }) => {
      const product = formations.get(parametersOf(body)[2]);
      return product ? [{ definition: id, product }] : [];
    });
  }

  /**
   * Where the child stands in its parent: what takes its own frame onto that of the parent. Where whose items
   * they are speaks for their being named the wrong way round, the kernel has rules of its
   * own, and it is left to it.
   */
  private placementOf(
    relation: string | undefined,
    own: ReadonlySet<string> | undefined,
    parents: ReadonlySet<string> | undefined,
    frames: ReadonlyMap<string, Mat4>,
    items: ReadonlyMap<string, ReadonlySet<string>>,
  ): Mat4 | null {
    const body = relation === undefined ? undefined : this.of.get('')!.get(relation)?.body;
    const of = (type: string) =>
      parametersOf(new RegExp(`\\b${type}\\s*(\\([^()]*\\))`).exec(body ?? '')?.[1] ?? '');
    const [first, second] = of('REPRESENTATION_RELATIONSHIP').slice(2);
    const [from, to] = this.parameters(
      'ITEM_DEFINED_TRANSFORMATION',
      of('REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION')[0],
    ).slice(2);
    const [a, b] = [frames.get(from), frames.get(to)];
    if (!a || !b || !own?.has(first) || !parents?.has(second)) return null;
    const [mine, theirs] = [items.get(first), items.get(second)];
    const isDoubtful = (!mine?.has(from) && mine?.has(to)) || (!theirs?.has(to) && theirs?.has(from));
    return isDoubtful ? null : multiply(b, invertAffine(a));
  }

  /** Every placement of the file, mm. */
  private frames(unit: number): ReadonlyMap<string, Mat4> {
    const wanted = new Map(
      this.all('AXIS2_PLACEMENT_3D').map(({ id, body }) => [id, parametersOf(body).slice(1)]),
    );
    const used = new Set(
      this.all('ITEM_DEFINED_TRANSFORMATION').flatMap(({ body }) => parametersOf(body).slice(2)),
    );
    const ids = new Set([...wanted].flatMap(([id, of]) => (used.has(id) ? of : [])));
    const vectors = new Map<string, Vec3>();
    for (const { id, body } of stepStatements(
      this.bytes,
      (t) => t === 'CARTESIAN_POINT' || t === 'DIRECTION',
    )) {
      const vector = ids.has(id) ? vectorOf(body) : null;
      if (vector) vectors.set(id, vector);
    }
    const frames = new Map<string, Mat4>();
    for (const id of used) {
      const [at, axis, across] = wanted.get(id) ?? [];
      const origin = vectors.get(at);
      const frame =
        origin && frameOf(scale(origin, unit), directionOf(axis, vectors), directionOf(across, vectors));
      if (frame) frames.set(id, frame);
    }
    return frames;
  }

  /** The length unit of all contexts, mm; null where they differ or are not known. */
  private millimetres(): number | null {
    const complex = this.of.get('')!;
    const named = this.all('').flatMap(({ body }) => {
      const units = /GLOBAL_UNIT_ASSIGNED_CONTEXT\s*\(\s*\(([^)]*)\)/i.exec(body)?.[1].match(/#\d+/g) ?? [];
      return units.map((id) => complex.get(id)?.body ?? '').filter((unit) => /\bLENGTH_UNIT\b/i.test(unit));
    });
    const units = new Set(named.map((unit) => IN_MM[unitSymbol(unit) ?? ''] ?? null));
    return units.size === 1 ? [...units][0] : null;
  }

  /**
   * The file without what says that one product holds another, and with each product by a name of its own.
   */
  withoutUses(marked: ReadonlyMap<string, string>): Uint8Array {
    const relations = new Set(
      this.all('CONTEXT_DEPENDENT_SHAPE_REPRESENTATION').map(({ body }) => parametersOf(body)[0]),
    );
    const edits: { from: number; to: number; text: string }[] = [];
    // What refers to them finds something; the kernel sees nothing in it.
    const put = ({ from, to, id }: StepStatement, text: string) =>
      edits.push({ from, to, text: `${id}=${text}` });
    const nothing = "DESCRIPTIVE_REPRESENTATION_ITEM('','')";
    for (const statement of this.all('CONTEXT_DEPENDENT_SHAPE_REPRESENTATION')) put(statement, nothing);
    for (const statement of this.all('')) if (relations.has(statement.id)) put(statement, nothing);
    for (const statement of this.all(USE)) {
      const [, , , parent, child] = parametersOf(statement.body);
      put(statement, `PRODUCT_DEFINITION_RELATIONSHIP('','','',${parent},${child})`);
    }
    for (const { definition, product } of this.products()) {
      const statement = this.of.get('PRODUCT')!.get(product);
      const contexts = this.parameters('PRODUCT', product)[3];
      if (statement)
        put(statement, `PRODUCT('${marked.get(definition)}','${marked.get(definition)}','',${contexts})`);
    }
    const buffer = Buffer.from(this.bytes.buffer, this.bytes.byteOffset, this.bytes.byteLength);
    const pieces: Buffer[] = [];
    let at = 0;
    for (const { from, to, text } of edits.sort((a, b) => a.from - b.from)) {
      pieces.push(buffer.subarray(at, from), Buffer.from(text, 'latin1'));
      at = to;
    }
    return Buffer.concat([...pieces, buffer.subarray(at)]);
  }
}

type Direction = Vec3 | 'left out' | undefined;
const directionOf = (id: string | undefined, vectors: ReadonlyMap<string, Vec3>): Direction =>
  id === undefined || id === '$' ? 'left out' : vectors.get(id);

/** ISO 10303-42, function build_axes: the axis, and across it the reference direction, with its defaults. */
function frameOf(origin: Vec3, axis: Direction, across: Direction): Mat4 | null {
  if (!axis || !across) return null;
  const along: Vec3 = axis === 'left out' ? [0, 0, 1] : axis;
  if (!(length(along) > TINY)) return null;
  const w = normalize(along);
  const given: Vec3 = across !== 'left out' ? across : Math.abs(w[0]) < 1 ? [1, 0, 0] : [0, 1, 0];
  const square = subtract(given, scale(w, dot(given, w)));
  if (!(length(square) > TINY)) return null;
  const u = normalize(square);
  return [...u, 0, ...cross(w, u), 0, ...w, 0, ...origin, 1];
}

/** Builds the trees without recursion, each use of a product a node of its own. */
function compose(
  uses: ReadonlyMap<string, readonly Use[]>,
  names: ReadonlyMap<string, string>,
  alone: (definition: string) => StructureNode | undefined,
): StructureNode[] {
  const used = new Set([...uses.values()].flatMap((held) => held.map((use) => use.child)));
  const nodeOf = (definition: string, placement: Mat4, said: string): StructureNode => {
    const name = names.get(definition) ?? 'Unnamed';
    return {
      name,
      placement,
      ...(said && said !== name && !MADE_UP_NAME.test(said) && { instanceName: said }),
    };
  };
  const roots: StructureNode[] = [];
  const assemblies: StructureNode[] = [];
  const open = [...names.keys()]
    .filter((definition) => !used.has(definition))
    .map((definition) => ({ definition, node: nodeOf(definition, IDENTITY, ''), into: roots, depth: 1 }))
    .reverse();
  while (open.length) {
    const { definition, node, into, depth } = open.pop()!;
    const held = uses.get(definition);
    const own = alone(definition);
    if (!held) {
      if (own) into.push({ ...own, ...node, placement: multiply(node.placement, own.placement) });
      continue;
    }
    const isHung = depth < MOST_LEVELS;
    const children = isHung ? (node.children = []) : into;
    const placement = isHung ? IDENTITY : node.placement;
    if (isHung) {
      into.push(node);
      assemblies.push(node);
    }
    if (own) children.push({ ...own, name: node.name, placement: multiply(placement, own.placement) });
    for (const { child, name, placement: at } of [...held].reverse())
      open.push({
        definition: child,
        node: nodeOf(child, multiply(placement, at), name),
        into: children,
        depth: depth + 1,
      });
  }
  const hasAny = ({ part, children }: StructureNode): boolean =>
    part !== undefined || Boolean(children?.length);
  for (const node of [...assemblies].reverse()) node.children = node.children!.filter(hasAny);
  return roots.filter(hasAny);
}
