import { decodeGeometry, encodeGeometry } from '@bathyscope/contracts';
import type { PartGeometry } from '@bathyscope/core/geometry';
import { transformBox } from '@bathyscope/core/math';
import { listOccurrences, partKeys, type ComponentPath, type ModelStructure } from '@bathyscope/core/model';
import { fingerprintOf, type Reference } from '@bathyscope/core/references';
import {
  carriedReference,
  matchParts,
  matchStructures,
  unchangedPart,
  type MatchedPart,
} from '@bathyscope/core/revisions';
import { compileKernel, describePart, loadKernel } from '@bathyscope/kernel';
import { bigModel } from './big-model.ts';
import { medianTime, report } from './report.ts';

/*
 * Budget: the first look-up of 2,000 records on a revision of 5,000 components against one pass over the
 * components of both;
 * and the comparison of a part of many equal holes, one row of which moved, against
 * unpacking its two geometries.
 */

const RECORDS = 2000;
const HOLES = 20;

export async function benchRevisions(): Promise<void> {
  const { detail, parts } = await bigModel();
  const [was, is] = [detail.structure, revised(detail.structure)];
  // Every sixth part is another one: made of the next size, as if its dimensions had changed.
  const now = parts.map((part, i) => (i % 6 === 0 ? parts[(i + 12) % parts.length] : part));
  const records = someReferences(was, parts);
  let lost = 0;
  const lookUp = medianTime(5, () => (lost = lookedUp(was, is, parts, now, records)));
  const pass = medianTime(5, () => {
    for (const s of [was, is])
      for (const o of listOccurrences(s))
        if (o.part !== undefined) transformBox(o.placement, parts[o.part].box);
  });
  report(
    `${RECORDS} records on a revision of 5,000 components`,
    lookUp / pass,
    '×',
    `one pass over the components of both; ${lost} lost`,
  );

  const [plate, moved] = await plates();
  const [a, b] = [plate, moved].map(encodeGeometry);
  const match = medianTime(3, () => matchParts(plate, moved));
  const unpack = medianTime(3, () => [a, b].map(decodeGeometry));
  report(
    `a part of ${HOLES * HOLES} holes, a row of them moved`,
    match / unpack,
    '×',
    `unpacking both; ${plate.faces.length} faces`,
  );
}

/** A hundred components are gone from the middle, and fifty were put before the others. */
function revised(structure: ModelStructure): ModelStructure {
  const { root, parts } = structure;
  const children = root.children!.filter((_, i) => i % 50 !== 7);
  const added = children.slice(0, 50).map((c) => ({
    ...c,
    placement: [...c.placement.slice(0, 12), c.placement[12], c.placement[13], -60, 1],
  }));
  return {
    root: { ...root, children: [...added, ...children] },
    parts: parts.map((p, i) => (i % 6 === 0 ? { ...p, geometry: `new ${i}` } : p)),
  };
}

function someReferences(structure: ModelStructure, parts: readonly PartGeometry[]): Reference[] {
  const all = listOccurrences(structure).filter((o) => o.part !== undefined);
  const keys = partKeys(structure);
  return Array.from({ length: RECORDS }, (_, i) => {
    const o = all[(i * 7919) % all.length];
    const index = i % parts[o.part!].faces.length;
    return {
      kind: 'face',
      component: o.path,
      part: keys[o.part!],
      index,
      fingerprint: fingerprintOf('face', index, parts[o.part!]),
    };
  });
}

function lookedUp(
  was: ModelStructure,
  is: ModelStructure,
  old: readonly PartGeometry[],
  now: readonly PartGeometry[],
  references: readonly Reference[],
): number {
  const match = matchStructures(was, is, () => false);
  const [before, after] = [was, is].map((s) => new Map(listOccurrences(s).map((o) => [o.path, o])));
  const keys = partKeys(is);
  const matched = new Map<string, MatchedPart>();
  const things = (path: ComponentPath) => {
    const [o, n] = [before.get(path)!.part!, after.get(match.components.get(path)!.to)!.part!];
    const key = `${o} ${n}`;
    if (!matched.has(key))
      matched.set(key, old[o] === now[n] ? unchangedPart(now[n]) : matchParts(old[o], now[n]));
    return { matched: matched.get(key)!, geometry: now[n] };
  };
  const revision = {
    component: (path: ComponentPath) => match.components.get(path),
    part: () => undefined,
    things,
    placements: () => undefined,
    motion: match.motion,
  };
  const keyOf = (path: ComponentPath) => keys[after.get(path)!.part ?? -1];
  return references.filter((r) => carriedReference(r, revision, keyOf).became === 'lost').length;
}

async function plates(): Promise<[PartGeometry, PartGeometry]> {
  const { oc } = await loadKernel(await compileKernel());
  const made = (shift: number): PartGeometry => {
    const [builder, drills] = [new oc.BRep_Builder(), new oc.TopoDS_Compound()];
    builder.MakeCompound(drills);
    for (let i = 0; i < HOLES * HOLES; i++) {
      const [x, y] = [10 * (i % HOLES) + (i < HOLES ? shift : 0), 10 * Math.floor(i / HOLES)];
      const frame = new oc.gp_Ax2_3(new oc.gp_Pnt_3(x, y, -1), new oc.gp_Dir_4(0, 0, 1));
      builder.Add(drills, new oc.BRepPrimAPI_MakeCylinder_3(frame, 3, 10).Shape());
    }
    const blank = new oc.BRepPrimAPI_MakeBox_4(
      new oc.gp_Pnt_3(-10, -10, 0),
      new oc.gp_Pnt_3(10 * HOLES, 10 * HOLES, 5),
    ).Shape();
    return describePart(
      oc,
      new oc.BRepAlgoAPI_Cut_3(blank, drills, new oc.Message_ProgressRange_1()).Shape(),
    );
  };
  return [made(0), made(2)];
}
