/** A node of an assembly that a test makes: a box of one part, or what is below it. */
export interface MadeNode {
  name: string;
  /** Where it stands in what holds it, mm. */
  at?: readonly [number, number, number];
  /** Absent for the box. */
  children?: readonly MadeNode[];
}

/**
 * The text of a STEP file (AP214, mm) of an assembly, each node with children a product of its own and each
 * leaf an instance of one box. Nothing of it goes through the kernel, so that it is linear in its size
 * whatever its shape.
 * @param box text of a STEP file of one part, whose entities are taken over
 */
export function assemblyText(box: string, root: MadeNode): string {
  const lines = box.slice(box.indexOf('DATA;') + 5, box.lastIndexOf('ENDSEC;'));
  const idOf = (type: string): string => new RegExp(`(#\\d+)\\s*=\\s*${type}\\s*\\(`).exec(lines)![1];
  const boxDefinition = idOf('PRODUCT_DEFINITION');
  const boxShape = /SHAPE_DEFINITION_REPRESENTATION\s*\(\s*#\d+\s*,\s*(#\d+)/.exec(lines)![1];
  const context = /(#\d+)\s*=\s*\(\s*GEOMETRIC_REPRESENTATION_CONTEXT/.exec(lines)![1];
  const [productContext, definitionContext] = [idOf('PRODUCT_CONTEXT'), idOf('PRODUCT_DEFINITION_CONTEXT')];
  let next = 1 + Math.max(...[...lines.matchAll(/^#(\d+)/gm)].map((m) => Number(m[1])));
  const out: string[] = [];
  const put = (text: string): string => {
    out.push(`#${next}=${text};`);
    return `#${next++}`;
  };
  const axis = put("DIRECTION('',(0.,0.,1.))");
  const across = put("DIRECTION('',(1.,0.,0.))");
  const frame = ([x, y, z]: readonly [number, number, number]): string =>
    put(
      `AXIS2_PLACEMENT_3D('',${put(`CARTESIAN_POINT('',(${real(x)},${real(y)},${real(z)}))`)},${axis},${across})`,
    );
  const origin = frame([0, 0, 0]);

  // From the leaves up and without recursion: a test may make a tree of any depth.
  const order: MadeNode[] = [];
  const open = [root];
  while (open.length) {
    const node = open.pop()!;
    order.push(node);
    for (const child of node.children ?? []) open.push(child);
  }
  const made = new Map<MadeNode, { definition: string; representation: string }>();
  for (const node of order.reverse()) {
    if (!node.children) continue;
    const frames = node.children.map((child) => frame(child.at ?? [0, 0, 0]));
    const product = put(`PRODUCT('${node.name}','${node.name}','',(${productContext}))`);
    const formation = put(`PRODUCT_DEFINITION_FORMATION('','',${product})`);
    const definition = put(`PRODUCT_DEFINITION('design','',${formation},${definitionContext})`);
    const shape = put(`PRODUCT_DEFINITION_SHAPE('','',${definition})`);
    const representation = put(`SHAPE_REPRESENTATION('',(${[origin, ...frames].join(',')}),${context})`);
    put(`SHAPE_DEFINITION_REPRESENTATION(${shape},${representation})`);
    node.children.forEach((child, i) => {
      const below = made.get(child) ?? { definition: boxDefinition, representation: boxShape };
      const use = put(
        `NEXT_ASSEMBLY_USAGE_OCCURRENCE('${i}','${child.name}','',${definition},${below.definition},$)`,
      );
      const placed = put(`PRODUCT_DEFINITION_SHAPE('','',${use})`);
      const move = put(`ITEM_DEFINED_TRANSFORMATION('','',${origin},${frames[i]})`);
      const relation = put(
        `(REPRESENTATION_RELATIONSHIP('','',${below.representation},${representation})REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION(${move})SHAPE_REPRESENTATION_RELATIONSHIP())`,
      );
      put(`CONTEXT_DEPENDENT_SHAPE_REPRESENTATION(${relation},${placed})`);
    });
    made.set(node, { definition, representation });
  }
  return `${box.slice(0, box.indexOf('DATA;') + 5)}${lines}\n${out.join('\n')}\nENDSEC;\nEND-ISO-10303-21;\n`;
}

const real = (x: number): string => (Number.isInteger(x) ? `${x}.` : String(x));

/** One node with so many boxes under it, in rows. */
export const broad = (n: number): MadeNode => ({
  name: 'Tray',
  children: Array.from({ length: n }, (_, i) => ({
    name: `Pin ${i}`,
    at: [(i % 100) * 20, Math.floor(i / 100) * 20, 0],
  })),
});

/** A box at the end of so many nodes, each within the last. */
export function deep(n: number): MadeNode {
  let node: MadeNode = { name: 'Pin' };
  for (let i = n; i > 0; i--) node = { name: `Sleeve ${i}`, children: [{ ...node, at: [1, 0, 0] }] };
  return node;
}
